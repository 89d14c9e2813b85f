import type { RetimeMap } from '@hastig/contract';
import { trimDecimals } from '../../time';
import { timesAt } from '../inverse';
import { carryPins } from '../land/pins';
import { compile, positionAt } from '../map';
import { scaleSpan } from '../span';
import { normalize } from './range';
import { EditRefused } from './refused';
import { trimEnd } from './trim';

/** `through`: the source's out point falls on the frame after the last (`f(D) = out`); `last-frame`: the last frame is shown (`f(D−1) = out−1`). */
export type FitEnding = 'through' | 'last-frame';

/** Output frames before `t` that lie in locked spans. */
function lockedBefore(map: RetimeMap, t: number): number {
  const { times } = compile(map);
  return map.spans.reduce(
    (sum, span, index) => (span.locked ? sum + Math.max(0, Math.min(t, times[index + 1]!) - times[index]!) : sum),
    0,
  );
}

/** The map with its unlocked spans so much longer or shorter that what stood at `t` stands at `at`. */
function scaleTo(map: RetimeMap, t: number, at: number): RetimeMap {
  const locked = lockedBefore(map, t);
  const factor = (at - locked) / (t - locked);
  if (!(factor > 0) || !Number.isFinite(factor)) {
    throw new EditRefused(
      'frames',
      `The locked parts alone are ${trimDecimals(locked, 2)} frames long. Unlock some of them.`,
    );
  }
  const spans = map.spans.map((span) => (span.locked ? span : scaleSpan(span, factor)));
  const place = (output: number): number => {
    const held = lockedBefore(map, output);
    return held + factor * (output - held);
  };
  return carryPins(normalize(map, map.start, spans), place);
}

/**
 * Makes a clip last a given number of output frames. The content and the shape of the curve stay; all lengths change in
 * proportion, except those of locked spans. Pins go along.
 *
 * @param frames new length in output frames, greater than 0
 */
export function fit(map: RetimeMap, frames: number, ending: FitEnding = 'through'): RetimeMap {
  if (!(frames > 0) || !Number.isFinite(frames))
    throw new EditRefused('frames', 'A clip must be longer than 0 frames.');
  const { length } = compile(map);
  if (ending === 'through') return scaleTo(map, length, frames);
  if (!(frames > 1)) throw new EditRefused('frames', 'Showing the last frame needs at least 2 output frames.');
  const out = positionAt(map, length);
  // One frame before the end in the direction of play, at its last appearance.
  const direction = Math.sign(out - map.start) || 1;
  const last = timesAt(map, out - direction).at(-1);
  if (!last || last.to <= 0) throw new EditRefused('frames', 'The clip is too short to show its last frame in full.');
  const stretched = scaleTo(map, last.to, frames - 1);
  return compile(stretched).length > frames ? trimEnd(stretched, frames) : stretched;
}
