import type { RetimeMap } from '@hastig/contract';
import { positionAt } from '@hastig/core';
import { useLayoutEffect, useRef } from 'react';
import { useStage } from '../../../stage/stage-context';
import { useAppSelector } from '../../../store/hooks';
import { frameToX } from '../../../time-view/use-time-view';
import { sourceToX, type ThreadsView } from '../../../time-view/threads-view';

/** The thread of the frame on the stage, and its place in both strips. */
export function PlayheadThread({ map, view }: { map: RetimeMap; view: ThreadsView }) {
  const frame = useAppSelector((state) => state.session.playhead);
  const { onFrame } = useStage();
  const line = useRef<SVGPolylineElement>(null);
  const points = (at: number): string => {
    const [above, below] = [sourceToX(view, positionAt(map, at)), frameToX(view.time, at)];
    return `${above},0 ${above},${view.strip} ${below},${view.height - view.strip} ${below},${view.height}`;
  };
  // While playing it moves with every frame, by itself: rendering anew for that would cost the picture its time.
  useLayoutEffect(() => onFrame((at) => line.current?.setAttribute('points', points(at))));
  return (
    <svg aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}>
      <polyline ref={line} points={points(frame)} fill="none" stroke="rgb(var(--bone))" strokeWidth={2} />
    </svg>
  );
}
