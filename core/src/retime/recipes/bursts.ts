import type { RetimeMap, Span } from '@hastig/contract';
import type { Ease } from '../ease';
import { constantSpan, rampSpan } from '../span';
import { checkRange, type Keeps, type OutputRange } from '../edit/range';
import { EditRefused } from '../edit/refused';
import { layAlong, momentsAlong, needMoments } from './along';

/** Where a burst lies: from its marker on, up to it, or to both sides of it. */
export type BurstPlace = 'from' | 'to' | 'centred';

interface BurstOptions {
  /** Speed between bursts. */
  base: number;
  /** Speeds of the bursts, taking turns. */
  speeds: readonly number[];
  /** Output frames of a burst, its ramps included. */
  frames: number;
  place: BurstPlace;
  /** Output frames of the ramp at each of its edges; 0 for hard ones. */
  ramp: number;
  ease: Ease;
  keeps: Keeps;
}

const LEAD: Record<BurstPlace, number> = { from: 0, to: 1, centred: 0.5 };

/**
 * Bursts: for a few frames at each marker a clip runs at another speed. A base of 50% with 800% for 5 frames passes 40 source
 * frames in each burst at equal rates (common practice). Where the next one begins before one is over, the one ends there.
 *
 * @param marks output frames of the map (real), in order
 */
export function bursts(map: RetimeMap, range: OutputRange, marks: readonly number[], options: BurstOptions): RetimeMap {
  const { base, speeds, frames, place, ramp, ease, keeps } = options;
  if (![base, ...speeds].every(Number.isFinite) || speeds.length === 0)
    throw new EditRefused('speed', 'The speed must be a number.');
  if (!(frames > 0)) throw new EditRefused('frames', 'A burst must be longer than 0 frames.');
  if (!(ramp >= 0)) throw new EditRefused('ramp', 'A ramp can’t be shorter than 0 frames.');
  if (2 * ramp > frames + 1e-9) {
    throw new EditRefused('ramp', 'The two ramps are longer than the burst. Make them shorter, or the burst longer.');
  }
  const { from, to } = checkRange(map, range);
  needMoments(map, marks, { from, to });
  return layAlong(map, { from, to }, keeps, (length) => {
    const starts = momentsAlong(marks, from, length).map((at) => at - LEAD[place] * frames);
    const spans: Span[] = [];
    let at = 0;
    starts.forEach((start, index) => {
      const first = Math.max(at, start);
      const next = starts[index + 1] ?? length;
      const last = Math.min(start + frames, Math.max(first, next), length);
      if (last - first < 1e-9) return;
      spans.push(constantSpan(base, first - at));
      spans.push(
        ...oneBurst(base, speeds[index % speeds.length]!, last - first, Math.min(ramp, (last - first) / 2), ease),
      );
      at = last;
    });
    return [...spans, constantSpan(base, length - at)];
  });
}

function oneBurst(base: number, speed: number, frames: number, ramp: number, ease: Ease): Span[] {
  if (ramp === 0) return [constantSpan(speed, frames)];
  return [rampSpan(base, speed, ramp, ease), constantSpan(speed, frames - 2 * ramp), rampSpan(speed, base, ramp, ease)];
}
