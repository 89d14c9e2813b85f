import { memo } from 'react';
import { frameToX, type TimeView } from './use-time-view';

/** A moment to draw a line at: an output frame (real), and whether it is one of the plainer ones, as the first beat of a bar. */
export interface LineMoment {
  at: number;
  plain: boolean;
}

interface MarkerLinesProps {
  moments: readonly LineMoment[];
  view: TimeView;
  height: number;
  top?: number;
}

/** Pixels from one line to the next at least; where they are closer on the whole, only the plainer ones are drawn. */
const APART = 6;

/** Markers as verticals over whatever has this view of time; they let pointers through. */
export const MarkerLines = memo(function MarkerLines({ moments, view, height, top = 0 }: MarkerLinesProps) {
  const path = (lines: readonly LineMoment[]): string => {
    let last = -Infinity;
    let drawn = '';
    for (const { at } of lines) {
      const x = frameToX(view, at);
      if (x - last < 3) continue;
      last = x;
      drawn += `M${x.toFixed(1)} 0V${height}`;
    }
    return drawn;
  };
  if (moments.length === 0) return null;
  const seen = moments.filter(({ at }) => at >= view.from && at <= view.to);
  const crowded = seen.length * APART > view.width;
  return (
    <svg
      aria-hidden
      width={view.width}
      height={height}
      style={{ position: 'absolute', left: 0, top, pointerEvents: 'none' }}
    >
      <path
        d={crowded ? '' : path(seen.filter(({ plain }) => !plain))}
        stroke="rgb(var(--quiet) / 0.45)"
        strokeDasharray="2 3"
      />
      <path d={path(seen.filter(({ plain }) => plain))} stroke="rgb(var(--bone) / 0.6)" />
    </svg>
  );
});
