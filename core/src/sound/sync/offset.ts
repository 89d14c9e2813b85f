// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../../beats/fft.d.ts" />
import FFT from 'fft.js';
import { combined, parabolicTop } from '../../beats/onsets';
import type { OnsetEnvelope } from '../../beats/envelope';

// Looked up once: the loops below run for every value.
const { abs, ceil, floor, hypot, log2, max, min, round, sqrt } = Math;

/** How one recording of something lies against another. */
export interface FoundOffset {
  /** Seconds by which what is heard in the first is heard later in the second; negative where earlier. */
  seconds: number;
  /** 0 to 1: how alike both are there, and how much more than at any other place. */
  sureness: number;
}

/** Seconds around the best place that are the same place. */
const SAME = 0.1;
/** From here on a place is trusted. */
export const SURE = 0.25;
/** Seconds that are compared sample by sample, and by how much the rough place may be off. */
export const CLOSE_LOOK = 2.5;
const OFF = 0.05;

/** Spectrum of values, as many as a power of two. */
function spectrumOf(fft: FFT, values: Float32Array, size: number): number[] {
  const padded = new Float32Array(size);
  padded.set(values);
  const out = fft.createComplexArray();
  fft.realTransform(out, padded);
  fft.completeSpectrum(out);
  return out;
}

/**
 * How alike two rows of samples are at each lag, all frequencies counting alike: the phase transform of C. Knapp and G. Carter, “The
 * generalized correlation method for estimation of time delay”, IEEE 1976. At lag n, `theirs` n samples later is laid over `ours`.
 */
function phaseCorrelation(ours: Float32Array, theirs: Float32Array): (lag: number) => number {
  const size = 2 ** ceil(log2(ours.length + theirs.length + 1));
  const fft = new FFT(size);
  const [a, b] = [spectrumOf(fft, ours, size), spectrumOf(fft, theirs, size)];
  multiply(b, a, true);
  const out = fft.createComplexArray();
  fft.inverseTransform(out, b);
  return (lag) => (lag > -ours.length && lag < theirs.length ? out[2 * ((lag + size) % size)]! : 0);
}

/** Multiplies a spectrum with another one's conjugate, leaving only the phases where `white`. */
function multiply(spectrum: number[], by: readonly number[], white: boolean): void {
  for (let i = 0; i < spectrum.length; i += 2) {
    const re = spectrum[i]! * by[i]! + spectrum[i + 1]! * by[i + 1]!;
    const im = spectrum[i + 1]! * by[i]! - spectrum[i]! * by[i + 1]!;
    const length = white ? hypot(re, im) || 1 : 1;
    spectrum[i] = re / length;
    spectrum[i + 1] = im / length;
  }
}

/**
 * The correlation of two rows of values at every lag at which they overlap, the first at lag 1 − `ours.length`. Theirs may be hours:
 * it is gone through in blocks of a few times ours (overlap-save: A. Oppenheim and R. Schafer, Discrete-Time Signal Processing, 8.7).
 */
function correlations(ours: Float32Array, theirs: Float32Array): Float32Array {
  const size = 2 ** ceil(log2(min(4 * ours.length, ours.length + theirs.length) + 1));
  const fft = new FFT(size);
  const own = spectrumOf(fft, ours, size);
  const out = fft.createComplexArray();
  const first = 1 - ours.length;
  const found = new Float32Array(ours.length + theirs.length - 1);
  const step = size - ours.length + 1;
  for (let at = 0; at < found.length; at += step) {
    const part = new Float32Array(size);
    const from = max(0, first + at);
    part.set(theirs.subarray(from, max(from, min(theirs.length, first + at + size))), from - first - at);
    const spectrum = spectrumOf(fft, part, size);
    multiply(spectrum, own, false);
    fft.inverseTransform(out, spectrum);
    for (let n = 0; n < min(step, found.length - at); n++) found[at + n] = out[2 * n]!;
  }
  return found;
}

const centred = (values: Float32Array): Float32Array => {
  const mean = values.reduce((sum, value) => sum + value, 0) / max(1, values.length);
  return values.map((value) => value - mean);
};

/** Seconds before and after what a clip shows that are compared too, and of all of it at most: enough to be told apart. */
const AROUND = 30;
const MOST = 600;

/**
 * The part of a recording by which its place in another is found: what is heard of it, and some more. Clocks of two devices part over
 * hours, and the place is to be right there.
 *
 * @param from seconds from which on it is heard, `to` which
 */
export function heardPart(envelope: OnsetEnvelope, from: number, to: number): OnsetEnvelope {
  const length = min(MOST, to - from + 2 * AROUND);
  const begin = (from + to - length) / 2;
  const at = (seconds: number): number => max(0, round((seconds - envelope.start) * envelope.rate));
  const [first, last] = [at(begin), at(begin + length)];
  const cut = (rows: OnsetEnvelope['bands']): OnsetEnvelope['bands'] => ({
    low: rows.low.subarray(first, last),
    mid: rows.mid.subarray(first, last),
    high: rows.high.subarray(first, last),
  });
  const { bands, levels } = envelope;
  return { ...envelope, start: envelope.start + first / envelope.rate, bands: cut(bands), levels: cut(levels) };
}

/** The rough offset of two recordings, to some milliseconds, by when something begins to sound in each. */
export function roughOffset(ours: OnsetEnvelope, theirs: OnsetEnvelope): FoundOffset {
  const { rate } = ours;
  const [a, b] = [combined(ours), atRate(combined(theirs), theirs.rate, rate)].map(centred) as [
    Float32Array,
    Float32Array,
  ];
  if (a.length === 0 || b.length === 0) return { seconds: 0, sureness: 0 };
  const found = correlations(a, b);
  const alike = (lag: number): number => found[lag + a.length - 1] ?? 0;
  let best = 0;
  for (let lag = 1 - a.length; lag < b.length; lag++) if (alike(lag) > alike(best)) best = lag;
  const top = alike(best);
  let second = 0;
  const apart = round(SAME * rate);
  for (let lag = 1 - a.length; lag < b.length; lag++) {
    if (abs(lag - best) > apart) second = max(second, alike(lag));
  }
  const exact = best + parabolicTop(alike(best - 1), top, alike(best + 1));
  return {
    seconds: exact / rate + theirs.start - ours.start,
    sureness: top > 0 ? max(0, 1 - second / top) * likeness(a, b, best) : 0,
  };
}

/** How alike two rows are where they overlap at a lag: their correlation coefficient, 0 where they are not alike. */
function likeness(ours: Float32Array, theirs: Float32Array, lag: number): number {
  let [both, a, b] = [0, 0, 0];
  for (let i = max(0, -lag); i < min(ours.length, theirs.length - lag); i++) {
    const [x, y] = [ours[i]!, theirs[i + lag]!];
    both += x * y;
    a += x * x;
    b += y * y;
  }
  return a > 0 && b > 0 ? max(0, both / sqrt(a * b)) : 0;
}

/** Values at another rate, straight lines between them. */
function atRate(values: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return values;
  return Float32Array.from({ length: floor((values.length * to) / from) }, (_, i) => {
    const at = (i * from) / to;
    const low = floor(at);
    return values[low]! + (at - low) * ((values[low + 1] ?? values[low]!) - values[low]!);
  });
}

/** Seconds of the first recording from which it is looked at closely: where both have most to compare. */
export function closeLookAt(ours: OnsetEnvelope, theirs: OnsetEnvelope, offset: number): number {
  const { rate, start } = ours;
  const [a, b] = [combined(ours), combined(theirs)];
  const reach = round(CLOSE_LOOK * rate);
  const both = a.map((value, i) => {
    const at = round((start + i / rate + offset - theirs.start) * theirs.rate);
    return at >= 0 && at < b.length ? min(value, b[at]!) : 0;
  });
  let sum = 0;
  let best = 0;
  let most = -1;
  for (let i = 0; i < both.length; i++) {
    sum += both[i]! - (i >= reach ? both[i - reach]! : 0);
    if (sum > most) [most, best] = [sum, max(0, i - reach + 1)];
  }
  return max(0, start + best / rate);
}

/** A stretch of a recording: its samples, how many a second, and the seconds at which they begin. */
export interface SyncStretch {
  samples: Float32Array;
  rate: number;
  from: number;
}

/** The offset of two recordings to a part of a sample, by stretches of both that a rough offset of about it puts together. */
export function exactOffset(ours: SyncStretch, theirs: SyncStretch, about: number): number {
  const a = ours.samples;
  const b = atRate(theirs.samples, theirs.rate, ours.rate);
  const alike = phaseCorrelation(a, b);
  // Lag at which the stretches meet if the rough offset were exact.
  const expected = round((ours.from + about - theirs.from) * ours.rate);
  const reach = round(OFF * ours.rate);
  let best = expected;
  for (let lag = expected - reach; lag <= expected + reach; lag++) if (alike(lag) > alike(best)) best = lag;
  const exact = best + parabolicTop(alike(best - 1), alike(best), alike(best + 1));
  return exact / ours.rate + theirs.from - ours.from;
}
