import type { MarkerKind } from '@hastig/contract';
import { spacingOf, trimDecimals, type CountedBeats } from '@hastig/core';

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

/** How many markers there are. */
export const countWords = (count: number): string => plural(count, 'marker');

/** How many markers there are and how evenly they follow one another: “32 markers, every 0.469 s ± 4 ms”. */
export function spacingWords(seconds: readonly number[]): string {
  const spacing = spacingOf(seconds);
  if (!spacing) return countWords(seconds.length);
  const [every, spread] = [spacing.typical.toFixed(3), Math.round(spacing.spread * 1000)];
  return `${countWords(spacing.count)}, every ${every} s ± ${spread} ms`;
}

/** A tempo in beats per minute, as it is read. */
export const tempoWords = (tempo: number): string => `${trimDecimals(tempo, 1)} bpm`;

/** A tempo as it was found, or tempi that follow one another: “125 bpm, even”, “100, 132 bpm, even”. */
export const foundTempoWords = ({ tempo, even }: Pick<CountedBeats, 'tempo' | 'even'>): string =>
  even ? `${even.tempi.map((one) => trimDecimals(one, 2)).join(', ')} bpm, even` : tempoWords(tempo);

/** How likely something is, as a percentage; nothing where that is next to none. */
export const likelyWords = (share: number): string => (share >= 0.005 ? `${Math.round(100 * share)}%` : '');

/** What a set of markers is called. */
export const setName = (set: string | null): string =>
  set === null ? 'All markers' : set === '' ? 'Unnamed set' : set;

/** What a marker of each kind is called. */
export const kindWords: Record<MarkerKind, string> = {
  hand: 'Marker',
  beat: 'Beat',
  downbeat: 'Downbeat',
  hit: 'Hit',
  moment: 'Moment',
};
