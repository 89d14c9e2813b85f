import { mean, median } from './mean';

/** Seconds of marked moments, in order. */
type Moments = readonly number[];

/** Twice as many: one more half way between each two. */
export function doubled(moments: Moments): number[] {
  return moments.flatMap((moment, i) => (i === 0 ? [moment] : [(moments[i - 1]! + moment) / 2, moment]));
}

/**
 * One of every `n`.
 *
 * @param n 1 or more
 * @param first which of the first `n` stays, from 0
 */
export function everyNth(moments: Moments, n: number, first = 0): number[] {
  return moments.filter((_, i) => i % n === first % n);
}

/** Each half way to the next; the last as far on as the one before it. For beats that were found between the beats. */
export function halfBeatLater(moments: Moments): number[] {
  return moments.map((moment, i) => {
    const gap = i + 1 < moments.length ? moments[i + 1]! - moment : moment - (moments[i - 1] ?? moment);
    return moment + gap / 2;
  });
}

/** All by so many seconds later, or earlier; what would lie before 0 falls away. */
export function nudged(moments: Moments, seconds: number): number[] {
  return moments.map((moment) => moment + seconds).filter((moment) => moment >= 0);
}

/** Those in a range of seconds, its end not included. */
export function within(moments: Moments, { from, to }: { from: number; to: number }): number[] {
  return moments.filter((moment) => moment >= from && moment < to);
}

/** Those that come no sooner than `seconds` after the last that stays; the first of near ones stays. */
export function withLeastGap(moments: Moments, seconds: number): number[] {
  const kept: number[] = [];
  // A gap that was typed as it is shown may be short by what rounding took.
  for (const moment of moments) if (!(moment - kept.at(-1)! < seconds - 1e-9)) kept.push(moment);
  return kept;
}

/**
 * An even grid, for music that no machine can hear.
 *
 * @param tempo beats per minute, more than 0
 * @param first seconds of a beat that is known; the grid reaches to both sides of it
 * @param to seconds at which it ends
 */
export function evenGrid(tempo: number, first: number, to: number): number[] {
  const period = 60 / tempo;
  const start = first - Math.floor(first / period + 1e-9) * period;
  const count = Math.max(0, Math.ceil((to - start) / period - 1e-9));
  return Array.from({ length: count }, (_, i) => start + i * period);
}

/** How evenly moments follow one another. */
interface Spacing {
  count: number;
  /** Seconds from one to the next, the middle one of all. */
  typical: number;
  /** Seconds by which most of them differ from that: the middle of all differences. */
  spread: number;
}

/** The spacing of at least two moments; undefined of fewer. */
export function spacingOf(moments: Moments): Spacing | undefined {
  if (moments.length < 2) return undefined;
  const gaps = moments.slice(1).map((moment, i) => moment - moments[i]!);
  const typical = median(gaps);
  return { count: moments.length, typical, spread: median(gaps.map((gap) => Math.abs(gap - typical))) };
}

/** The tempo of taps (seconds), in beats per minute: a tap that was missed counts as two beats. Undefined of fewer than two. */
export function tappedTempo(taps: Moments): number | undefined {
  const spacing = spacingOf(taps);
  if (!spacing || !(spacing.typical > 0)) return undefined;
  const first = taps[0]!;
  // The line through all taps, each at its beat, is steadier than the mean of gaps.
  const beats = taps
    .map((tap) => tap - first)
    .reduce<number[]>((counted, since, i) => {
      const gap = i === 0 ? 0 : Math.max(1, Math.round((since - (taps[i - 1]! - first)) / spacing.typical));
      return [...counted, (counted.at(-1) ?? 0) + gap];
    }, []);
  const [meanBeat, meanTap] = [mean(beats), mean(taps)];
  const across = beats.reduce((sum, beat) => sum + (beat - meanBeat) ** 2, 0);
  const along = beats.reduce((sum, beat, i) => sum + (beat - meanBeat) * (taps[i]! - meanTap), 0);
  return (60 * across) / along;
}
