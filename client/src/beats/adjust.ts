import type { MarkerKind } from '@hastig/contract';
import { doubled, everyNth, halfBeatLater, withLeastGap } from '@hastig/core';

/** How markers of a set are changed together. */
export interface Adjustment {
  what: 'nth' | 'double' | 'gap' | 'half' | 'nudge' | 'bars' | 'kind';
  /** One of every `n` stays, from the `first` on (counted from 1). */
  n: number;
  first: number;
  /** Milliseconds. */
  gap: number;
  by: number;
  /** Beats in a bar, and which of the markers is the first downbeat (counted from 1). */
  bar: number;
  downbeat: number;
  /** What all of them become. */
  kind: MarkerKind;
}

/** Something at a moment that may be changed: what it was, or that it is new and made after it. */
interface Adjusted<M> {
  marker: M;
  seconds: number;
  isNew?: boolean;
  /** What it becomes, where that changes. */
  kind?: MarkerKind;
}

/** What becomes of moments, in order. Those that go before 0 fall away. */
export function adjusted<M>(moments: readonly Adjusted<M>[], change: Adjustment): Adjusted<M>[] {
  const seconds = moments.map((one) => one.seconds);
  const still = (times: readonly number[]): Adjusted<M>[] => {
    const kept = new Set(times);
    return moments.filter((one) => kept.has(one.seconds));
  };
  switch (change.what) {
    case 'nth':
      return still(everyNth(seconds, change.n, change.first - 1));
    case 'gap':
      return still(withLeastGap(seconds, change.gap / 1000));
    case 'double':
      // Old and new take turns.
      return doubled(seconds).map((at, index) => ({
        marker: moments[index >> 1]!.marker,
        seconds: at,
        ...(index % 2 === 1 && { isNew: true }),
      }));
    case 'half':
      return halfBeatLater(seconds).map((at, index) => ({ ...moments[index]!, seconds: at }));
    case 'bars':
      return moments.map((one, index) => ({
        ...one,
        // Those before the first downbeat belong to a bar that began earlier.
        kind: (index - (change.downbeat - 1)) % change.bar === 0 ? 'downbeat' : 'beat',
      }));
    case 'kind':
      return moments.map((one) => ({ ...one, kind: change.kind }));
    case 'nudge':
      return moments
        .map((one) => ({ ...one, seconds: one.seconds + change.by / 1000 }))
        .filter((one) => one.seconds >= 0);
  }
}
