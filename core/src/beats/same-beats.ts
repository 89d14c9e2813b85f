import { median } from './mean';

/** Two readings of which this share of the beats is the same are one. */
const SAME = 0.8;
/** Seconds by which two beats may lie apart and be the same. */
const NEAR = 0.05;

/** Beats per minute of beats (seconds), of most of them. */
export function tempoOfBeats(beats: readonly number[]): number {
  return 60 / median(beats.slice(1).map((beat, i) => beat - beats[i]!));
}

/** Beats of one reading that the other has too, as pairs, in order. */
export function sharedBeats(a: readonly number[], b: readonly number[]): [a: number, b: number][] {
  const pairs: [number, number][] = [];
  let next = 0;
  for (const beat of a) {
    while (next < b.length && b[next]! < beat - NEAR) next++;
    if (next < b.length && b[next]! <= beat + NEAR) pairs.push([beat, b[next]!]);
  }
  return pairs;
}

/**
 * Whether most beats of one reading are beats of the other, and as many.
 *
 * @param share of the beats that are the same at least
 */
export function sameBeats(a: readonly number[], b: readonly number[], share = SAME): boolean {
  return Math.abs(Math.log(a.length / b.length)) <= 0.2 && sharedBeats(a, b).length > share * a.length;
}
