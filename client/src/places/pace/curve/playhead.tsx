import { useAppSelector } from '../../../store/hooks';
import { frameToX, type CurveView } from './scale';

/** The playhead over the curve: a line that passes pointers through, for the curve beneath scrubs. */
export function Playhead({ view }: { view: CurveView }) {
  const frame = useAppSelector((state) => state.session.playhead);
  return (
    <div
      aria-hidden
      style={{
        position: 'absolute',
        top: 0,
        bottom: 0,
        left: 0,
        width: 2,
        background: 'rgb(var(--bone))',
        transform: `translateX(${frameToX(view, frame) - 1}px)`,
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
