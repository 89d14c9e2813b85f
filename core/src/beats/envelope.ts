// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./fft.d.ts" />
import { onsetHopSamples } from '@hastig/contract';
import FFT from 'fft.js';
import { NoteChanges, windowsReached } from './note-changes';

/** Parts of the spectrum in which onsets are told apart: bass hits, voices and melody, hats and attacks. */
export const onsetBands = ['low', 'mid', 'high'] as const;
export type OnsetBand = (typeof onsetBands)[number];

/** How suddenly sound gets louder, moment by moment, in each band. */
export interface OnsetEnvelope {
  /** Values a second. */
  rate: number;
  /** Seconds of the hit that a peak at value 0 stands for. */
  start: number;
  /** The values, 0 or more; as many in each band. */
  bands: Readonly<Record<OnsetBand, Float32Array>>;
  /** How loud each band is (an amplitude, full scale is 1), as many values; the first is heard `levelLag` seconds after `start`. */
  levels: Readonly<Record<OnsetBand, Float32Array>>;
  levelLag: number;
  /** How much the notes that sound change, 0 to 1, as many values; the first is of a moment `changeLag` seconds after `start`. */
  changes: Float32Array;
  /** Seconds, below 0. */
  changeLag: number;
}

/** Hertz at which a band ends. */
const ends: Record<OnsetBand, number> = { low: 180, mid: 2000, high: Infinity };
/** Bands an octave are split into for hearing changes of pitch, and the lowest and highest frequencies that count, in hertz. */
const PER_OCTAVE = 6;
const LOWEST = 40;
const HIGHEST = 16_000;
/** Seconds of a window. */
const WINDOW = 0.021;
/** Windows between the two that are compared: far enough apart for a hit to be whole in one and not begun in the other. */
const LAG = 2;
/** How strongly quiet sound counts beside loud sound: the logarithm is taken of 1 + so many times the magnitude. */
const COMPRESSION = 100;
/**
 * The part of a window by which the rise is greatest before a hit lies there: a logarithm rises most when the hit is still at the
 * window's edge. Measured over kicks, clicks and hats at 44.1 and 48 kHz, where it was 0.25 to 0.29.
 */
const EARLY = 0.283;
/** Values that are made room for at a time. */
const PAGE = 1 << 14;

// Looked up once: the loops below run a hundred thousand times for each second of sound.
const { sqrt, log1p } = Math;

/** Bins of a spectrum that belong together, and the band they are in. */
interface Slice {
  from: number;
  to: number;
  band: OnsetBand;
}

function slicesOf(size: number, rate: number): Slice[] {
  const bin = rate / size;
  const slices: Slice[] = [];
  const highest = Math.min(HIGHEST, rate / 2);
  for (let low = LOWEST; low < highest; low *= 2 ** (1 / PER_OCTAVE)) {
    const from = Math.max(slices.at(-1)?.to ?? 1, Math.round(low / bin));
    const to = Math.min(size / 2, Math.round((low * 2 ** (1 / PER_OCTAVE)) / bin));
    if (to <= from) continue;
    slices.push({ from, to, band: onsetBands.find((band) => (from * rate) / size < ends[band])! });
  }
  return slices;
}

/**
 * Makes the onset envelope of sound that comes block by block, in memory that grows only with the envelope: seven values for
 * every 5 ms.
 *
 * The spectral flux of logarithmic magnitudes, rises only, as in S. Dixon, “Onset detection revisited” (DAFx 2006); bands
 * compared with the largest of their neighbours, so that vibrato is no onset, as in S. Böck and G. Widmer, “Maximum filter
 * vibrato suppression for onset detection” (DAFx 2013).
 */
export class EnvelopeMaker {
  private readonly size: number;
  private readonly hop: number;
  private readonly fft: FFT;
  private readonly window: Float32Array;
  private readonly slices: Slice[];
  private readonly spectrum: number[];
  private readonly windowed: Float32Array;
  /** Magnitudes of the last windows by slice, in a ring. */
  private readonly past: Float32Array[];
  private readonly pending: Float32Array;
  private filled = 0;
  private windows = 0;
  private readonly bands = emptyBands();
  private readonly levels = emptyBands();
  private readonly noteChanges: NoteChanges;
  private readonly changes = { all: new Float32Array(PAGE) };

  /** @param rate samples per second, 8000 or more */
  constructor(private readonly rate: number) {
    this.size = windowSize(rate);
    this.hop = onsetHopSamples(rate);
    this.fft = new FFT(this.size);
    this.spectrum = this.fft.createComplexArray();
    this.window = Float32Array.from(
      { length: this.size },
      (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / this.size),
    );
    this.windowed = new Float32Array(this.size);
    this.slices = slicesOf(this.size, rate);
    this.past = Array.from({ length: LAG + 1 }, () => new Float32Array(this.slices.length));
    this.pending = new Float32Array(this.size);
    this.noteChanges = new NoteChanges(this.size, rate, this.hop);
    // Silence before the first sample, so that a hit at once is one.
    this.filled = this.size - this.hop;
  }

  /** The next samples of one channel, −1 to 1. */
  push(block: ArrayLike<number>): void {
    for (let read = 0; read < block.length;) {
      const count = Math.min(this.size - this.filled, block.length - read);
      for (let i = 0; i < count; i++) this.pending[this.filled + i] = block[read + i]!;
      this.filled += count;
      read += count;
      if (this.filled < this.size) continue;
      this.measure();
      this.pending.copyWithin(0, this.hop);
      this.filled -= this.hop;
    }
  }

  /** What was heard so far. */
  envelope(): OnsetEnvelope {
    const { rate, windows } = this;
    const upTo = ({ low, mid, high }: Bands): Bands => ({
      low: low.slice(0, windows),
      mid: mid.slice(0, windows),
      high: high.slice(0, windows),
    });
    return {
      ...timesOf(rate),
      bands: upTo(this.bands),
      levels: upTo(this.levels),
      changes: this.changes.all.slice(0, windows),
    };
  }

  private measure(): void {
    const { size, window, windowed, pending, spectrum, past, slices, windows } = this;
    for (let i = 0; i < size; i++) windowed[i] = pending[i]! * window[i]!;
    this.fft.realTransform(spectrum, windowed);
    const now = past[windows % past.length]!;
    const before = past[(windows + 1) % past.length]!;
    const scale = COMPRESSION / (size / 4);
    let [low, mid, high] = [0, 0, 0];
    let [lowPower, midPower, highPower] = [0, 0, 0];
    // The innermost loop of all analysis: no square root of a library, no function for each bin.
    for (let index = 0; index < slices.length; index++) {
      const slice = slices[index]!;
      const from = slice.from;
      const to = slice.to;
      const band = slice.band;
      let sum = 0;
      let power = 0;
      for (let bin = 2 * from; bin < 2 * to; bin += 2) {
        const re = spectrum[bin]!;
        const im = spectrum[bin + 1]!;
        const square = re * re + im * im;
        power += square;
        sum += sqrt(square);
      }
      if (band === 'low') lowPower += power;
      else if (band === 'mid') midPower += power;
      else highPower += power;
      const value = log1p((scale * sum) / (to - from));
      now[index] = value;
      const largest = Math.max(index > 0 ? before[index - 1]! : 0, before[index]!, before[index + 1] ?? 0);
      if (value <= largest) continue;
      if (band === 'low') low += value - largest;
      else if (band === 'mid') mid += value - largest;
      else high += value - largest;
    }
    this.append(this.bands, 'low', low);
    this.append(this.bands, 'mid', mid);
    this.append(this.bands, 'high', high);
    // The sum of a Hann window's power is 3/8 of its length (Parseval): a full sine is 1.
    const full = 4 / (sqrt(6) * (size / 2));
    this.append(this.levels, 'low', full * sqrt(lowPower));
    this.append(this.levels, 'mid', full * sqrt(midPower));
    this.append(this.levels, 'high', full * sqrt(highPower));
    this.append(this.changes, 'all', this.noteChanges.push(this.spectrum));
    this.windows++;
  }

  private append<Row extends string>(all: Record<Row, Float32Array>, band: Row, value: number): void {
    let values = all[band];
    if (this.windows >= values.length) {
      const grown = new Float32Array(values.length * 2);
      grown.set(values);
      all[band] = values = grown;
    }
    values[this.windows] = value;
  }
}

type Bands = Record<OnsetBand, Float32Array>;

const emptyBands = (): Bands => ({
  low: new Float32Array(PAGE),
  mid: new Float32Array(PAGE),
  high: new Float32Array(PAGE),
});

const windowSize = (rate: number): number => 2 ** Math.round(Math.log2(rate * WINDOW));

/** The times of an envelope of sound with so many samples a second. */
export function timesOf(rate: number): Pick<OnsetEnvelope, 'rate' | 'start' | 'levelLag' | 'changeLag'> {
  const hop = onsetHopSamples(rate);
  const early = (EARLY * windowSize(rate)) / rate;
  return {
    rate: rate / hop,
    // What two windows compared have between them is a hit when it lies half a lag before the later one's middle.
    start: (hop - windowSize(rate) / 2 - (LAG * hop) / 2) / rate + early,
    levelLag: (LAG * hop) / 2 / rate - early,
    // What is compared meets between the windows at the beginning of what is after.
    changeLag: (LAG * hop) / 2 / rate - early - ((windowsReached(rate, hop) - 0.5) * hop) / rate,
  };
}

/** Values that a maker has to hear before the first one that is whole, where it begins in the middle of sound. */
export function warmUp(rate: number): number {
  const hop = onsetHopSamples(rate);
  return Math.ceil(windowSize(rate) / hop) + Math.max(LAG + 1, 2 * windowsReached(rate, hop));
}
