import type { Rate } from '@hastig/contract';
import { rateToNumber } from '../time';

/** Seconds between two key frames of a file, where they are not told. */
export const KEY_INTERVAL = 2;

/** Seconds of a stretch at least. */
const STRETCH = 8;

/** Pictures of a file, by their numbers: `to` is not included. */
export interface Stretch {
  from: number;
  to: number;
}

/**
 * The stretches that a film is encoded in, one after the other: each begins with a key frame where one would be anyway, and with nothing
 * of what came before, so that it comes out the same wherever it is encoded.
 *
 * @param frames of the file
 * @param keyEvery seconds between two key frames
 */
export function stretchesOf(frames: number, rate: Rate, keyEvery = KEY_INTERVAL): Stretch[] {
  const seconds = Math.ceil(STRETCH / keyEvery - 1e-9) * keyEvery;
  const starts: number[] = [];
  for (let k = 0, at = 0; at < frames; at = Math.ceil(++k * seconds * rateToNumber(rate) - 1e-6)) starts.push(at);
  return starts.map((from, index) => ({ from, to: starts[index + 1] ?? frames }));
}
