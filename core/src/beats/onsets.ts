import { apart } from './apart';
import { onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';

// Looked up once: the loops below run for every value of an envelope.
const { floor, max, min, round } = Math;

/** A moment at which something begins to sound. */
export interface Onset {
  /** Seconds. */
  time: number;
  /** 0 to 1; 1 is the strongest of all. */
  strength: number;
  /** The band it is strongest in, each measured by what is usual there. */
  band: OnsetBand;
}

export interface OnsetChoice {
  /** Only one band's onsets, or those of all together. */
  band?: OnsetBand;
  /** 0 finds the plainest only, 1 nearly everything. */
  sensitivity?: number;
  /** Seconds from one onset to the next at least; of two nearer ones the stronger stays. */
  leastGap?: number;
  /** Times the usual level around it by which an onset stands out at least; by the sensitivity unless given. */
  standsOut?: number;
}

/** Seconds to each side within which an onset is the highest, and over which the usual level is taken. */
const NEIGHBOURHOOD = 0.03;
const USUAL = 0.4;
/** Times the usual level by which an onset stands out at least, from the least to the greatest sensitivity. */
const STANDS_OUT = [4, 1.15] as const;
/** The part of the strongest onset below which nothing is one, from the least to the greatest sensitivity. */
const FLOOR = [0.25, 0.01] as const;

const between = ([least, most]: readonly [number, number], share: number): number => least + (most - least) * share;

/** All bands together, each measured by its own strongest moments, so that a hat counts beside a drum. */
export function combined({ bands }: OnsetEnvelope, only?: OnsetBand): Float32Array {
  const used = only ? [only] : onsetBands;
  const out = new Float32Array(bands.low.length);
  for (const band of used) {
    const scale = usualPeak(bands[band]);
    if (scale > 0) bands[band].forEach((value, i) => (out[i]! += value / scale));
  }
  return out;
}

const peaks = new WeakMap<Float32Array, number>();

/** What a band's plain peaks reach: the value that one moment in two hundred exceeds. Made once for each row of values. */
export function usualPeak(values: Float32Array): number {
  let peak = peaks.get(values);
  if (peak === undefined) {
    const sorted = values.toSorted();
    peak = sorted[floor(sorted.length * 0.995)] || sorted.at(-1) || 0;
    peaks.set(values, peak);
  }
  return peak;
}

/** The mean of values within `reach` to each side of each. */
function meanAround(values: Float32Array, reach: number): Float32Array {
  const sums = new Float64Array(values.length + 1);
  values.forEach((value, i) => (sums[i + 1] = sums[i]! + value));
  return values.map((_, i) => {
    const [from, to] = [max(0, i - reach), min(values.length, i + reach + 1)];
    return (sums[to]! - sums[from]!) / (to - from);
  });
}

/** Where between values a peak lies, −0.5 to 0.5: the top of the parabola through it and its neighbours. */
export function parabolicTop(before: number, peak: number, after: number): number {
  const bend = before - 2 * peak + after;
  return bend < 0 ? max(-0.5, min(0.5, (before - after) / (2 * bend))) : 0;
}

/** The onsets of an envelope, in order of time. */
export function findOnsets(envelope: OnsetEnvelope, choice: OnsetChoice = {}): Onset[] {
  const { band, sensitivity = 0.5, leastGap = 0.03, standsOut = between(STANDS_OUT, sensitivity) } = choice;
  const values = combined(envelope, band);
  const reach = max(1, round(min(NEIGHBOURHOOD, leastGap) * envelope.rate));
  const usual = meanAround(values, round(USUAL * envelope.rate));
  const strongest = values.reduce((most, value) => max(most, value), 0);
  if (!(strongest > 0)) return [];
  const floor = between(FLOOR, sensitivity) * strongest;
  const scales = onsetBands.map((name) => usualPeak(envelope.bands[name]) || 1);
  const found: Onset[] = [];
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value < floor || value < usual[i]! * standsOut || !isHighest(values, i, reach)) continue;
    const top = parabolicTop(values[i - 1] ?? 0, value, values[i + 1] ?? 0);
    const time = max(0, envelope.start + (i + top) / envelope.rate);
    found.push({ time, strength: value / strongest, band: band ?? strongestBand(envelope, scales, i) });
  }
  return apart(found, ({ time }) => time, leastGap);
}

// Of equal neighbours the first.
function isHighest(values: Float32Array, at: number, reach: number): boolean {
  for (let i = max(0, at - reach); i < min(values.length, at + reach + 1); i++) {
    if (values[i]! > values[at]! || (values[i] === values[at] && i < at)) return false;
  }
  return true;
}

function strongestBand({ bands }: OnsetEnvelope, scales: readonly number[], at: number): OnsetBand {
  const measured = onsetBands.map((band, index) => bands[band][at]! / scales[index]!);
  return onsetBands[measured.indexOf(max(...measured))]!;
}
