import { barWays } from './bar-features';
import { barsJudge } from './bars-judge';
import type { OnsetEnvelope } from './envelope';
import { likelihoods } from './network';

/** How beats make bars. */
export interface Bars {
  /** Beats in a bar, 2 to 7. */
  beats: number;
  /** Which beat is the first of a bar that is whole, from 0 to `beats` − 1. */
  first: number;
  /** How likely that is beside the other ways, 0 to 1. */
  score: number;
}

/** Ways that are told, the likeliest; the last of them are next to impossible. */
const MOST = 12;

/**
 * The ways beats may make bars of two to seven, the likeliest first: by bass, accents and notes that change on their first beats, and
 * by how the sound comes again, judged by what was fitted to music of many styles (`bars-judge.ts`).
 */
export function findBars(envelope: OnsetEnvelope, beats: readonly number[]): Bars[] {
  if (beats.length < 4) return [];
  const ways = barWays(envelope, beats);
  const likely = likelihoods(
    barsJudge,
    ways.map(({ features }) => features),
  );
  return ways
    .map(({ beats: count, first }, i): Bars => ({ beats: count, first, score: likely[i]! }))
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST);
}
