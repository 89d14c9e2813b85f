import type { OnsetBand } from './envelope';
import { median } from './mean';
import type { Onset } from './onsets';

/** Beats that lie evenly, at one tempo or at a few. */
export interface EvenBeats {
  /** Seconds of each beat, in order. */
  beats: number[];
  /** Beats a minute, one stretch after the other. */
  tempi: number[];
}

/** A line on which beats lie: beat `n` at `at + n · period` seconds. */
interface Line {
  at: number;
  period: number;
}

/** Hits in the sound, all of them and those of each band, in order. */
type Hits = Readonly<Record<OnsetBand | 'all', readonly Onset[]>>;

/** A stretch of beats at one tempo, from beat 0 to beat `last` of its line. */
interface Stretch extends Line {
  last: number;
}

/** Seconds by which what a machine plays lies off at most. */
const EXACT = 0.01;
/** Beats that a tempo is told from at first, and those that a stretch has at least. */
const FIRST = 12;
const LEAST = 8;
/** Of so many beats in a row so many lie off where the tempo is another. */
const RECENT = 8;
const OFF = 6;
/** The share of beats, and of hits on them, that lie exactly where music is even. */
const SHARE = 0.8;
/** Seconds of a piece for each further tempo. */
const EACH_TEMPO = 12;
/** Seconds from a beat within which a hit may be its own, and beyond which it says nothing in the sum of squares. */
const NEAR = 0.025;
const SPREAD = 0.009;
/** Beats from one that was found to the next beyond which there is a pause. */
const MOST_MISSING = 4;
/** The share of beats that have a hit in a band whose hits say where beats begin. */
const ENOUGH = 0.2;
/** Seconds by which a tempo that is a whole number may be off at the end, for that number to be taken. */
const WHOLE = 0.001;

/** The line with the middle of all slopes (H. Theil, 1950; P. Sen, 1968), which a few beats that lie off do not turn. */
function middleLine(times: readonly number[]): Line {
  const slopes = times.flatMap((to, j) => times.slice(0, j).map((from, i) => (to - from) / (j - i)));
  const period = median(slopes);
  return { at: median(times.map((time, i) => time - i * period)), period };
}

/** The line of least squares through weighted points. */
function leastSquares(points: readonly { n: number; time: number; weight: number }[]): Line {
  const all = points.reduce((sum, { weight }) => sum + weight, 0);
  const middle = points.reduce((sum, { n, weight }) => sum + weight * n, 0) / all;
  const time = points.reduce((sum, one) => sum + one.weight * one.time, 0) / all;
  const [across, along] = points.reduce(
    ([a, b], one) => [a + one.weight * (one.n - middle) ** 2, b + one.weight * (one.n - middle) * (one.time - time)],
    [0, 0],
  );
  const period = along / across;
  return { at: time - middle * period, period };
}

const offOf = ({ at, period }: Line, time: number): { n: number; off: number } => {
  const n = Math.round((time - at) / period);
  return { n, off: time - at - n * period };
};

/** The line of least squares through points that come one by one; each costs the same, however many there are. */
class GrowingLine {
  private count = 0;
  private n = 0;
  private time = 0;
  private nn = 0;
  private nTime = 0;

  add(n: number, time: number): void {
    this.count++;
    this.n += n;
    this.time += time;
    this.nn += n * n;
    this.nTime += n * time;
  }

  line(): Line {
    const { count, n, time, nn, nTime } = this;
    const period = (count * nTime - n * time) / (count * nn - n * n);
    return { at: (time - period * n) / count, period };
  }
}

/** How far from its first beat on a tempo holds: the line, and how many of the beats are on it. */
function stretchFrom(beats: readonly number[]): { line: Line; count: number } | undefined {
  let line = middleLine(beats.slice(0, FIRST));
  const exact = new GrowingLine();
  let exactly = 0;
  const recent: boolean[] = [];
  let count = 0;
  for (; count < beats.length; count++) {
    const { n, off } = offOf(line, beats[count]!);
    const on = Math.abs(off) <= EXACT;
    if (on) {
      exact.add(n, beats[count]!);
      exactly++;
      if (exactly >= FIRST) line = exact.line();
    }
    recent.push(!on);
    if (recent.slice(-RECENT).filter(Boolean).length >= OFF) break;
  }
  // What lay off before that was seen belongs to what follows.
  while (count > 0 && (count >= beats.length || recent[count]) && recent[count - 1]) count--;
  return count >= LEAST && exactly >= SHARE * count ? { line, count } : undefined;
}

/** The line of least squares over all hits that lie on beats, those that lie off counting less and less (Tukey's biweight). */
function overHits(stretch: Stretch, onsets: readonly Onset[]): Line | undefined {
  const end = stretch.at + stretch.last * stretch.period;
  const near = onsets
    .map((onset) => ({ ...onset, ...offOf(stretch, onset.time) }))
    .filter(({ n, off, time }) => n >= 0 && time < end + NEAR && Math.abs(off) <= NEAR);
  if (new Set(near.map(({ n }) => n)).size < LEAST) return undefined;
  let line: Line = stretch;
  for (let again = 0; again < 12; again++) {
    const points = near.map(({ n, time, strength }) => {
      const far = (time - line.at - n * line.period) / SPREAD;
      return { n, time, weight: Math.abs(far) < 1 ? strength * (1 - far * far) ** 2 : 0 };
    });
    if (points.filter(({ weight }) => weight > 0).length < LEAST) return undefined;
    line = leastSquares(points);
  }
  const exact = near.filter(({ n, time }) => Math.abs(time - line.at - n * line.period) <= EXACT);
  const sum = (some: readonly Onset[]): number => some.reduce((total, { strength }) => total + strength, 0);
  return sum(exact) >= SHARE * sum(near) ? line : undefined;
}

/**
 * By how many seconds the beats lie earlier than the line over all hits: what sets in softly is found late, so the band counts
 * whose hits are the earliest, of those that are heard on enough beats.
 */
function earliest({ at, period }: Line, last: number, bands: readonly (readonly Onset[])[]): number {
  const lags = bands.flatMap((onsets) => {
    const offs = onsets
      .map(({ time }) => offOf({ at, period }, time))
      .filter(({ n, off }) => n >= 0 && n <= last && Math.abs(off) <= SPREAD)
      .map(({ off }) => off);
    return offs.length >= Math.max(LEAST, ENOUGH * last) ? [median(offs)] : [];
  });
  return Math.min(0, ...lags);
}

/** A tempo that is a whole number of beats a minute but for what cannot be told. */
function rounded({ at, period }: Line, last: number): Line {
  const whole = 60 / Math.round(60 / period);
  if (Math.abs(whole - period) * last > WHOLE) return { at, period };
  return { at: at + ((period - whole) * last) / 2, period: whole };
}

/** The numbers of all beats of a stretch: those that were found, and those that are missing between two, but none in a pause. */
function numbersOf(found: readonly number[], last: number): number[] {
  const all: number[] = [];
  for (const n of found) {
    const before = all.at(-1);
    if (before !== undefined && n - before <= MOST_MISSING) for (let one = before + 1; one < n; one++) all.push(one);
    if ((before === undefined || n > before) && n <= last) all.push(n);
  }
  return all;
}

/**
 * Beats as a machine plays them: where one tempo, or a few with marked changes, explain beats that were found within 10 ms, they
 * are placed on it, by least squares over all hits.
 *
 * @param beats seconds, as they were found
 * @param onsets hits in the same sound
 * @returns undefined of music that is played by people, or too short to tell
 */
export function evenBeats(beats: readonly number[], onsets: Hits): EvenBeats | undefined {
  const even: EvenBeats = { beats: [], tempi: [] };
  for (let from = 0; from < beats.length;) {
    const rest = beats.slice(from);
    const found = rest.length >= LEAST ? stretchFrom(rest) : undefined;
    if (!found) {
      // A few beats that are left over at the end follow the last tempo.
      const period = 60 / (even.tempi.at(-1) ?? NaN);
      if (!(rest.length < LEAST)) return undefined;
      for (const beat of rest) {
        const end = even.beats.at(-1) ?? NaN;
        const missing = Math.round((beat - end) / period);
        if (missing > MOST_MISSING) break;
        for (let n = 1; n <= missing; n++) even.beats.push(end + n * period);
      }
      break;
    }
    const { line, count } = found;
    const first = offOf(line, rest[0]!).n;
    const last = offOf(line, rest[count - 1]!).n - first;
    const stretch = { at: line.at + first * line.period, period: line.period, last };
    const fitted = overHits(stretch, onsets.all);
    if (!fitted) return undefined;
    const { at: late, period } = rounded(fitted, last);
    const at = late + earliest({ at: late, period }, last, [onsets.low, onsets.mid, onsets.high]);
    const soonest = (even.beats.at(-1) ?? -Infinity) + period / 2;
    const ns = rest.slice(0, count).map((beat) => offOf(line, beat).n - first);
    for (const n of numbersOf(ns, last)) if (at + n * period > soonest) even.beats.push(at + n * period);
    even.tempi.push(60 / period);
    from += count;
  }
  const seconds = (beats.at(-1) ?? 0) - (beats[0] ?? 0);
  if (even.beats.length === 0 || even.tempi.length > 1 + seconds / EACH_TEMPO) return undefined;
  return { ...even, beats: even.beats.filter((at) => at >= 0) };
}
