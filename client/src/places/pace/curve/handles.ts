import type { RetimeMap } from '@hastig/contract';
import { compile, formatFactor, formatPercent, isPlateau, trimDecimals } from '@hastig/core';

/**
 * What can be grabbed in the curve. A `plateau` is dragged up and down; a `ramp` is moved by its bead and widened by
 * its edges; a `key` (a joint without a ramp) is moved.
 */
export interface CurveHandle {
  kind: 'plateau' | 'ramp' | 'key';
  /** The span; for a key the one after it. */
  index: number;
  from: number;
  to: number;
  /** Speed of the plateau; of a ramp or key, halfway between its two sides on the axis. */
  speed: number;
  /** Name and value for screen readers. */
  name: string;
  value: string;
  /** Whether the ramp's edges can be dragged: a plateau lies on each side. */
  widens: boolean;
}

/** Everything that can be grabbed, from left to right. */
export function handlesOf(map: RetimeMap): CurveHandle[] {
  const { times, positions, count } = compile(map);
  const handles: CurveHandle[] = [];
  const show = (value: number): string => trimDecimals(value, 2);
  map.spans.forEach((span, index) => {
    const [from, to] = [times[index]!, times[index + 1]!];
    const before = map.spans[index - 1];
    const plateau = isPlateau(span);
    if (before && isPlateau(before) && plateau) {
      const [a, b] = [before.y[3], span.y[0]];
      const value = `output ${show(from)}, source ${show(positions[index]!)}, speed ${show(a)} to ${show(b)}`;
      handles.push({
        kind: 'key',
        index,
        from,
        to: from,
        speed: (a + b) / 2,
        name: `Key ${index + 1} of ${count + 1}`,
        value,
        widens: !span.jump,
      });
    }
    if (plateau) {
      const value = `${formatPercent(span.y[0])} for ${show(to - from)} frames, from output ${show(from)}`;
      handles.push({
        kind: 'plateau',
        index,
        from,
        to,
        speed: span.y[0],
        name: `Span ${index + 1} of ${count}`,
        value,
        widens: false,
      });
    } else if (span.of === 'speed') {
      const after = map.spans[index + 1];
      const [a, b] = [span.y[0], span.y[3]];
      const value = `${formatFactor(a)} to ${formatFactor(b)} over ${show(to - from)} frames, from output ${show(from)}`;
      const widens = !!before && !!after && isPlateau(before) && isPlateau(after) && a !== b;
      handles.push({
        kind: 'ramp',
        index,
        from,
        to,
        speed: (a + b) / 2,
        name: `Ramp ${index + 1} of ${count}`,
        value,
        widens,
      });
    }
  });
  return handles;
}
