import { useLayoutEffect, useRef } from 'react';
import { useStage } from '../stage/stage-context';
import { useAppSelector } from '../store/hooks';
import { frameToX, type TimeView } from './use-time-view';

/** The playhead over the curve: a line that passes pointers through, for the curve beneath scrubs. */
export function Playhead({ view }: { view: TimeView }) {
  const frame = useAppSelector((state) => state.session.playhead);
  const { onFrame } = useStage();
  const line = useRef<HTMLDivElement>(null);
  const place = (at: number): string => `translateX(${frameToX(view, at) - 1}px)`;
  // While playing it moves with every frame, by itself: rendering anew for that would cost the picture its time. Told of the
  // view before the next frame can come, or that one would put it where it was in the old view.
  useLayoutEffect(() =>
    onFrame((at) => {
      if (line.current) line.current.style.transform = place(at);
    }),
  );
  return (
    <div
      ref={line}
      aria-hidden
      style={{
        position: 'absolute',
        top: 0,
        bottom: 0,
        left: 0,
        width: 2,
        background: 'rgb(var(--bone))',
        transform: place(frame),
        pointerEvents: 'none',
      }}
    >
      <div
        style={{
          width: 10,
          height: 10,
          marginLeft: -4,
          background: 'rgb(var(--bone))',
          borderRadius: '2px 2px 5px 5px',
        }}
      />
    </div>
  );
}
