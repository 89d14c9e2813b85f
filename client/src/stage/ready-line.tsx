import { useAppSelector } from '../store/hooks';
import { frameToX, type TimeView } from '../time-view/use-time-view';

interface ReadyLineProps {
  view: TimeView;
  /** Pixels from the top of what it lies on. */
  top: number;
}

/** A line along what is made already, and plays as it will be rendered. */
export function ReadyLine({ view, top }: ReadyLineProps) {
  const ready = useAppSelector((state) => state.stage.ready);
  if (ready.length === 0) return null;
  const frames = ready.reduce((sum, { from, to }) => sum + to - from, 0);
  return (
    <div
      role="img"
      aria-label={`Ready: ${frames} ${frames === 1 ? 'picture' : 'pictures'}`}
      style={{ position: 'absolute', left: 0, right: 0, top, height: 3, overflow: 'hidden', pointerEvents: 'none' }}
    >
      {ready.map(({ from, to }) => {
        const [left, right] = [Math.max(0, frameToX(view, from)), Math.min(view.width, frameToX(view, to))];
        return right > left ? (
          <div
            key={from}
            style={{
              position: 'absolute',
              left,
              width: Math.max(1, right - left),
              top: 0,
              bottom: 0,
              background: 'rgb(var(--slow))',
            }}
          />
        ) : null;
      })}
    </div>
  );
}
