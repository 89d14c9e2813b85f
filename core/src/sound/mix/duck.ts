import type { Duck } from '@hastig/contract';
import { easedPeak } from './eased-peaks';

/** Seconds of a block whose loudness is looked at as one. */
export const DUCK_BLOCK = 0.01;

/** The level of samples in decibels below full scale, as the root of their mean square; −Infinity for silence. */
export function levelOf(channels: readonly Float32Array[], from = 0, to = channels[0]?.length ?? 0): number {
  let most = 0;
  for (const channel of channels) {
    let sum = 0;
    for (let n = from; n < to; n++) sum += channel[n]! * channel[n]!;
    most = Math.max(most, sum / Math.max(1, to - from));
  }
  return 10 * Math.log10(most);
}

/**
 * Decibels by which a track gives way in a block, 0 or more. It begins to before the other track is heard, so that no word is
 * covered.
 *
 * @param levelAt the other track's level in a block, in decibels below full scale
 */
export function duckedBy(duck: Duck, levelAt: (block: number) => number, block: number): number {
  const blocks = (seconds: number): number => Math.round(seconds / DUCK_BLOCK);
  const wanted = (one: number): number => (levelAt(one) > duck.threshold ? duck.amount : 0);
  return easedPeak(wanted, block, blocks(duck.attack), blocks(duck.release));
}

/** Blocks before and after one that its ducking depends on. */
export function duckReach({ attack, release }: Duck): { before: number; after: number } {
  return { before: Math.ceil(release / DUCK_BLOCK) + 1, after: Math.ceil(attack / DUCK_BLOCK) + 1 };
}
