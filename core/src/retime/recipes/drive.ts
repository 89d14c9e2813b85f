import type { RetimeMap, Span } from '@hastig/contract';
import type { Ease } from '../ease';
import { constantSpan, rampSpan } from '../span';
import { checkRange, type Keeps, type OutputRange } from '../edit/range';
import { EditRefused } from '../edit/refused';
import { layAlong, momentsAlong, needMoments } from './along';

/** Speed that rises towards each marker and drops at it, or two speeds that change places at each. */
export type DriveShape = 'rise' | 'change';

interface DriveOptions {
  shape: DriveShape;
  /** Speed right after a marker, and the one it rises to; or the two that take turns. */
  low: number;
  high: number;
  ease: Ease;
  keeps: Keeps;
}

/**
 * Drive: the speed is carried by the beat.
 *
 * @param marks output frames of the map (real), in order
 */
export function drive(map: RetimeMap, range: OutputRange, marks: readonly number[], options: DriveOptions): RetimeMap {
  const { shape, low, high, ease, keeps } = options;
  if (![low, high].every(Number.isFinite)) throw new EditRefused('speed', 'The speed must be a number.');
  const { from, to } = checkRange(map, range);
  needMoments(map, marks, { from, to });
  return layAlong(map, { from, to }, keeps, (length): Span[] => {
    const inside = momentsAlong(marks, from, length).filter((at) => at > 1e-9);
    const stops = [0, ...inside];
    const spans = stops.map((start, index) => {
      const frames = (stops[index + 1] ?? length) - start;
      // What lies behind the last marker rises to nothing, so it stays low.
      if (shape === 'rise')
        return index + 1 < stops.length ? rampSpan(low, high, frames, ease) : constantSpan(low, frames);
      return constantSpan(index % 2 === 0 ? low : high, frames);
    });
    return spans;
  });
}
