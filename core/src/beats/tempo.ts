// Looked up once: the loops below run for every value of an envelope.
const { abs, ceil, exp, floor, log, log2, max, min, round, sqrt } = Math;

/** A tempo that holds around a moment. */
export interface TempoPoint {
  /** Seconds. */
  time: number;
  /** Seconds from one beat to the next. */
  period: number;
}

/** Values a second of what is looked at for tempo. */
const RATE = 100;
/** The fastest and slowest tempo that is looked for, in seconds a beat, and the ratio from one to the next. */
export const FASTEST = 0.24;
export const SLOWEST = 1.25;
const RATIO = 1.01;
/** Seconds to each side over which a tempo is heard, and from one look to the next. */
const REACH = 4;
const STEP = 0.5;
/** Seconds over which a period has to hold: some beats of a slow one, some bars of a fast one. */
const HOLDS = 5;
/** The tempo people tap to most readily, seconds a beat, and octaves to each side within which they do (van Noorden and Moelants, 1999). */
const PREFERRED = 0.5;
const SPREAD = 0.9;
/** What a tempo loses that changes: for each octave, and at most. */
const CHANGE = 12;
const MOST_CHANGE = 1.2;

/** How readily people tap at a period (seconds), up to 1. */
function tempoPreference(period: number): number {
  const octaves = log2(period / PREFERRED) / SPREAD;
  return exp(-0.5 * octaves * octaves);
}

const periods: readonly number[] = Array.from(
  { length: floor(log(SLOWEST / FASTEST) / log(RATIO)) + 1 },
  (_, i) => FASTEST * RATIO ** i,
);

/** An envelope at another rate, each value the mean of those it stands for. */
function resampled(values: Float32Array, from: number, to: number): Float32Array {
  const step = from / to;
  return Float32Array.from({ length: floor(values.length / step) }, (_, i) => {
    const [start, end] = [floor(i * step), max(floor(i * step) + 1, floor((i + 1) * step))];
    let sum = 0;
    for (let at = start; at < end; at++) sum += values[at] ?? 0;
    return sum / (end - start);
  });
}

/** Each value the mean of those near it, so that a period that is off by a hundredth still meets its peaks. */
function smoothed(values: Float32Array): Float32Array {
  return values.map((value, i) => {
    const [a = 0, b = 0, c = 0, d = 0] = [values[i - 2], values[i - 1], values[i + 1], values[i + 2]];
    return (a + 2 * b + 3 * value + 2 * c + d) / 9;
  });
}

/** Stretches of values, `from` included, `to` not. */
interface Stretch {
  from: number;
  to: number;
}

/**
 * How alike stretches of an envelope are to themselves a while later, for every lag up to the longest: one row of lags a stretch.
 * All from running sums, lag by lag, since the stretches overlap.
 */
function autocorrelations(values: Float32Array, stretches: readonly Stretch[], longest: number): Float32Array[] {
  const count = values.length;
  const sums = new Float64Array(count + 1);
  for (let i = 0; i < count; i++) sums[i + 1] = sums[i]! + values[i]!;
  const rows = stretches.map(() => new Float32Array(longest + 1));
  const products = new Float64Array(count + 1);
  for (let lag = 0; lag <= longest; lag++) {
    for (let i = 0; i < count; i++) products[i + 1] = products[i]! + (i < lag ? 0 : values[i]! * values[i - lag]!);
    for (let index = 0; index < stretches.length; index++) {
      const { from, to } = stretches[index]!;
      const pairs = to - from - lag;
      if (pairs <= 0) continue;
      const mean = (sums[to]! - sums[from]!) / (to - from);
      const both = sums[to]! - sums[from + lag]! + sums[to - lag]! - sums[from]!;
      // Fewer pairs at long lags are not less alike.
      rows[index]![lag] = (products[to]! - products[from + lag]! - mean * both + mean * mean * pairs) / pairs;
    }
  }
  for (const row of rows) {
    const power = row[0] || 1;
    for (let lag = 0; lag <= longest; lag++) row[lag]! /= power;
  }
  return rows;
}

const at = (values: Float32Array, x: number): number => {
  const low = floor(x);
  return low + 1 < values.length ? values[low]! + (x - low) * (values[low + 1]! - values[low]!) : 0;
};

/**
 * How well each period fits where a stretch is so much alike to itself: alike a few beats on, and unlike half way between.
 */
function salienceOf(alike: Float32Array): Float32Array {
  return Float32Array.from(periods, (period) => {
    let fit = 0;
    let weights = 0;
    for (let tooth = 1; tooth * period <= HOLDS; tooth++) {
      const weight = 1 / sqrt(tooth);
      fit += weight * (at(alike, tooth * period * RATE) - 0.4 * at(alike, (tooth - 0.5) * period * RATE));
      weights += weight;
    }
    return max(0, fit / weights) * tempoPreference(period);
  });
}

/** How well each period fits at each look. Each band by itself: kicks on the beat and hats beside it would look like beats twice as fast. */
function salience(bands: readonly Float32Array[], stretches: readonly Stretch[]): Float32Array[] {
  const sum = stretches.map(() => new Float32Array(periods.length));
  for (const values of bands) {
    autocorrelations(values, stretches, ceil(HOLDS * RATE)).forEach((alike, look) =>
      salienceOf(alike).forEach((fit, i) => (sum[look]![i]! += fit)),
    );
  }
  return sum;
}

/**
 * The tempo over time: at each look the period that fits best there and goes on from the one before (the path of the greatest
 * sum, Viterbi).
 *
 * @param rows values that say how suddenly something begins, one row a band; `rate` of them a second, the first of second `start`
 */
export function tempoOver(rows: readonly Float32Array[], rate: number, start: number): TempoPoint[] {
  const slow = rows.map((values) => smoothed(smoothed(resampled(values, rate, RATE))));
  const looks = max(1, ceil(slow[0]!.length / RATE / STEP));
  const cost = Float32Array.from(periods, (_, apart) => min(MOST_CHANGE, CHANGE * apart * log2(RATIO)));
  const stretches = Array.from({ length: looks }, (_, look): Stretch => {
    const centre = round(look * STEP * RATE);
    const to = min(slow[0]!.length, centre + REACH * RATE);
    return { from: min(to, max(0, centre - REACH * RATE)), to };
  });
  const fits = salience(slow, stretches);
  let best = new Float32Array(periods.length);
  const back: Int16Array[] = [];
  for (const fit of fits) {
    const most = fit.reduce((top, value) => max(top, value), 1e-9);
    const next = new Float32Array(periods.length);
    const came = new Int16Array(periods.length);
    for (let to = 0; to < periods.length; to++) {
      let greatest = -Infinity;
      let from = to;
      for (let i = 0; i < periods.length; i++) {
        const sum = best[i]! - cost[abs(i - to)]!;
        if (sum > greatest) {
          greatest = sum;
          from = i;
        }
      }
      next[to] = greatest + fit[to]! / most;
      came[to] = from;
    }
    best = next;
    back.push(came);
  }
  let state = best.indexOf(max(...best));
  const path: TempoPoint[] = [];
  for (let look = looks - 1; look >= 0; look--) {
    path.push({ time: start + look * STEP, period: periods[state]! });
    state = back[look]![state]!;
  }
  return path.reverse();
}
