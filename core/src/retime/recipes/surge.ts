import type { RetimeMap } from '@hastig/contract';
import type { Ease } from '../ease';
import { compile } from '../map';
import { constantSpan, meanSpeed, rampSpan } from '../span';
import { refuseLocked } from '../lock';
import { checkRange, cutRange, replaceRange, type Keeps, type OutputRange } from '../edit/range';
import { EditRefused } from '../edit/refused';

interface SurgeOptions {
  /** Speed of the two outer constant-speed parts, and of the middle one. */
  outer: number;
  inner: number;
  /** Output frames of each of the two ramps. */
  ramp: number;
  /** Share of the constant-speed parts' time that the middle one takes, 0…1. */
  share: number;
  ease: Ease;
  keeps: Keeps;
}

/**
 * Surge and dip: two constant-speed parts of one speed and a middle of another, with a ramp on each side of it. A surge is slow – fast
 * – slow, a dip fast – slow – fast. The ramps keep their length; the constant-speed parts take what is left.
 */
export function surge(map: RetimeMap, range: OutputRange, options: SurgeOptions): RetimeMap {
  const { outer, inner, ramp, share, ease, keeps } = options;
  if (![outer, inner].every(Number.isFinite)) throw new EditRefused('speed', 'The speed must be a number.');
  if (!(ramp > 0)) throw new EditRefused('ramp', 'A ramp must be longer than 0 frames.');
  if (!(share > 0 && share < 1))
    throw new EditRefused('share', 'The middle share must be more than 0% and less than 100%.');
  const { from, to } = checkRange(map, range);
  const cut = cutRange(map, { from, to });
  refuseLocked(cut.middle);
  const [up, down] = [rampSpan(outer, inner, ramp, ease), rampSpan(inner, outer, ramp, ease)];
  let levels = to - from - 2 * ramp;
  if (keeps === 'content') {
    const content = (cut.middleEnd - cut.middleStart) / compile(map).ratio;
    levels = (content - ramp * (meanSpeed(up) + meanSpeed(down))) / (outer * (1 - share) + inner * share);
  }
  if (!(levels > 0) || !Number.isFinite(levels)) {
    throw new EditRefused('ramp', 'The two ramps don’t fit in the range. Shorten them, or choose a longer range.');
  }
  const side = constantSpan(outer, (levels * (1 - share)) / 2);
  const spans = [side, up, constantSpan(inner, levels * share), down, side];
  return replaceRange(map, { from, to }, spans, keeps === 'content' ? 'stay' : 'follow');
}
