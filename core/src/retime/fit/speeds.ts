import type { Span } from '@hastig/contract';
import { constantSpan, rampSpan } from '../span';
import { fitKeys, type FittedKey } from './fit-keys';

/** Speeds closer than this are one. */
const SAME = 1e-6;

/** The spans of speeds that stand at keys; `perFrame` of a key's steps are an output frame. */
export function spansOfKeys(keys: readonly FittedKey[], perFrame = 1): Span[] {
  return keys.slice(1).map((key, index) => {
    const before = keys[index]!;
    const frames = (key.at - before.at) / perFrame;
    return Math.abs(key.value - before.value) < SAME
      ? constantSpan(before.value, frames)
      : rampSpan(before.value, key.value, frames);
  });
}

/**
 * Few spans whose speeds stay within a tolerance of speeds that were measured.
 *
 * @param speeds one for each output frame, and one more for the end
 * @param tolerance a speed, more than 0
 */
export function spansOfSpeeds(speeds: ArrayLike<number>, tolerance: number): Span[] {
  return spansOfKeys(fitKeys(speeds, tolerance));
}
