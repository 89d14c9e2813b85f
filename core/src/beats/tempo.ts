import { onsetBands, type OnsetEnvelope } from './envelope';

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
export function tempoPreference(period: number): number {
  const octaves = Math.log2(period / PREFERRED) / SPREAD;
  return Math.exp(-0.5 * octaves * octaves);
}

const periods: readonly number[] = Array.from(
  { length: Math.floor(Math.log(SLOWEST / FASTEST) / Math.log(RATIO)) + 1 },
  (_, i) => FASTEST * RATIO ** i,
);

/** An envelope at another rate, each value the mean of those it stands for. */
function resampled(values: Float32Array, from: number, to: number): Float32Array {
  const step = from / to;
  return Float32Array.from({ length: Math.floor(values.length / step) }, (_, i) => {
    const [start, end] = [Math.floor(i * step), Math.max(Math.floor(i * step) + 1, Math.floor((i + 1) * step))];
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

/** How alike a part of an envelope is to itself a while later: for every lag up to the longest. */
function autocorrelation(values: Float32Array, from: number, to: number, longest: number): Float32Array {
  const out = new Float32Array(longest + 1);
  let mean = 0;
  for (let i = from; i < to; i++) mean += values[i]!;
  mean /= Math.max(1, to - from);
  const flat = Float32Array.from({ length: to - from }, (_, i) => values[from + i]! - mean);
  for (let lag = 0; lag <= longest; lag++) {
    let sum = 0;
    for (let i = lag; i < flat.length; i++) sum += flat[i]! * flat[i - lag]!;
    // Fewer pairs at long lags are not less alike.
    out[lag] = sum / Math.max(1, flat.length - lag);
  }
  const power = out[0] || 1;
  return out.map((value) => value / power);
}

const at = (values: Float32Array, x: number): number => {
  const low = Math.floor(x);
  return low + 1 < values.length ? values[low]! + (x - low) * (values[low + 1]! - values[low]!) : 0;
};

/**
 * How well each period fits around a moment: alike a few beats on, and unlike half way between. Each band by itself: kicks on the
 * beat and hats beside it would look like beats twice as fast together.
 */
function salience(bands: readonly Float32Array[], centre: number): Float32Array {
  const out = new Float32Array(periods.length);
  for (const values of bands) salienceOf(values, centre).forEach((fit, i) => (out[i]! += fit));
  return out;
}

function salienceOf(values: Float32Array, centre: number): Float32Array {
  const [from, to] = [Math.max(0, centre - REACH * RATE), Math.min(values.length, centre + REACH * RATE)];
  const alike = autocorrelation(values, from, to, Math.ceil(HOLDS * RATE));
  return Float32Array.from(periods, (period) => {
    let fit = 0;
    let weights = 0;
    for (let tooth = 1; tooth * period <= HOLDS; tooth++) {
      const weight = 1 / Math.sqrt(tooth);
      fit += weight * (at(alike, tooth * period * RATE) - 0.4 * at(alike, (tooth - 0.5) * period * RATE));
      weights += weight;
    }
    return Math.max(0, fit / weights) * tempoPreference(period);
  });
}

/**
 * The tempo over time: at each look the period that fits best there and goes on from the one before (the path of the greatest
 * sum, Viterbi).
 * */
export function tempoOver({ bands, rate, start }: OnsetEnvelope): TempoPoint[] {
  const slow = onsetBands.map((band) => smoothed(smoothed(resampled(bands[band], rate, RATE))));
  const looks = Math.max(1, Math.ceil(slow[0]!.length / RATE / STEP));
  const cost = Float32Array.from(periods, (_, apart) => Math.min(MOST_CHANGE, CHANGE * apart * Math.log2(RATIO)));
  let best = new Float32Array(periods.length);
  const back: Int16Array[] = [];
  for (let look = 0; look < looks; look++) {
    const fit = salience(slow, Math.round(look * STEP * RATE));
    const most = fit.reduce((top, value) => Math.max(top, value), 1e-9);
    const next = new Float32Array(periods.length);
    const came = new Int16Array(periods.length);
    for (let to = 0; to < periods.length; to++) {
      let greatest = -Infinity;
      let from = to;
      for (let i = 0; i < periods.length; i++) {
        const sum = best[i]! - cost[Math.abs(i - to)]!;
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
  let state = best.indexOf(Math.max(...best));
  const path: TempoPoint[] = [];
  for (let look = looks - 1; look >= 0; look--) {
    path.push({ time: start + look * STEP, period: periods[state]! });
    state = back[look]![state]!;
  }
  return path.reverse();
}
