import { PEAK_REACH, truePeak } from './true-peak';

const { log10, pow, tan, max, min, floor, round, PI } = Math;

/** A filter of second order, as its coefficients after a0 was divided out (direct form II, transposed). */
interface Biquad {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

/**
 * The K-weighting at a sample rate: a shelf that stands for the head, and a high pass (Recommendation ITU-R BS.1770-5, annex 1,
 * whose coefficients are for 48 kHz; the analogue filters behind them, for other rates, as libebur128 has them, from memory).
 */
function kWeighting(rate: number): [shelf: Biquad, highPass: Biquad] {
  const k = tan((PI * 1681.974450955533) / rate);
  const [gain, q] = [3.999843853973347, 0.7071752369554196];
  const high = pow(10, gain / 20);
  const band = pow(high, 0.4996667741545416);
  const a0 = 1 + k / q + k * k;
  const shelf: Biquad = {
    b: [(high + (band * k) / q + k * k) / a0, (2 * (k * k - high)) / a0, (high - (band * k) / q + k * k) / a0],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  };
  const l = tan((PI * 38.13547087602444) / rate);
  const p = 0.5003270373238773;
  const c0 = 1 + l / p + l * l;
  return [shelf, { b: [1, -2, 1], a: [(2 * (l * l - 1)) / c0, (1 - l / p + l * l) / c0] }];
}

/** Seconds between two readings; blocks of 0.4 s and 3 s are whole numbers of them. */
const STEP = 0.1;
const MOMENTARY = 4;
const SHORT_TERM = 30;
/** Below this nothing counts, in LUFS. */
const ABSOLUTE_GATE = -70;
/** What is so far below the rest does not count, in LU: for the whole, and for its range. */
const RELATIVE_GATE = -10;
const RANGE_GATE = -20;

const loudnessOf = (power: number): number => -0.691 + 10 * log10(power);
const powerOf = (loudness: number): number => pow(10, (loudness + 0.691) / 10);
const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** What is loud of a programme, in LUFS and LU; −Infinity for silence. */
export interface Loudness {
  /** Of the whole, gated. */
  integrated: number;
  /** Loudness range, in LU (EBU Tech 3342). */
  range: number;
  momentaryMax: number;
  shortTermMax: number;
  /** Decibels above full scale that peaks reach, between samples too. */
  truePeak: number;
}

/** How much sound from behind counts beside that from the front (+1.5 dB): BS.1770-5, annex 1, table 3. */
const BEHIND = 1.41;
/** What each channel counts, by how many there are, in the order in which decoders give them; low effects do not count. */
const channelWeights: Readonly<Record<number, readonly number[]>> = {
  4: [1, 1, BEHIND, BEHIND],
  5: [1, 1, 1, BEHIND, BEHIND],
  6: [1, 1, 1, 0, BEHIND, BEHIND],
};

/**
 * Measures loudness as it comes (Recommendation ITU-R BS.1770-5, EBU R 128, EBU Tech 3341 and 3342), of up to six channels: left,
 * right, middle, low effects, and two behind. Of more, all count alike.
 */
export class LoudnessMeter {
  private readonly filters: [Biquad, Biquad];
  private readonly states: Float64Array[];
  private readonly weights: readonly number[];
  private readonly stepSamples: number;
  private readonly powers: number[] = [];
  private readonly tails: Float32Array[];
  private sum = 0;
  private inStep = 0;
  private peak = 0;

  /** @param rate samples per second */
  constructor(rate: number, channels: number) {
    this.filters = kWeighting(rate);
    this.states = Array.from({ length: channels }, () => new Float64Array(4));
    this.tails = Array.from({ length: channels }, () => new Float32Array(2 * PEAK_REACH));
    this.weights = channelWeights[channels] ?? Array.from({ length: channels }, () => 1);
    this.stepSamples = round(STEP * rate);
  }

  /** The next samples, one array a channel. */
  add(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    channels.forEach((samples, channel) => this.addPeaks(samples, channel));
    const [{ b: s, a: r }, { b: h, a: g }] = this.filters;
    let done = 0;
    while (done < count) {
      const end = min(count, done + this.stepSamples - this.inStep);
      for (let channel = 0; channel < channels.length; channel++) {
        const samples = channels[channel]!;
        const state = this.states[channel]!;
        let [s1, s2, h1, h2] = state as unknown as [number, number, number, number];
        let sum = 0;
        for (let n = done; n < end; n++) {
          const x = samples[n]!;
          const y = s[0] * x + s1;
          s1 = s[1] * x - r[0] * y + s2;
          s2 = s[2] * x - r[1] * y;
          const z = h[0] * y + h1;
          h1 = h[1] * y - g[0] * z + h2;
          h2 = h[2] * y - g[1] * z;
          sum += z * z;
        }
        state.set([s1, s2, h1, h2]);
        this.sum += this.weights[channel]! * sum;
      }
      this.inStep += end - done;
      done = end;
      if (this.inStep < this.stepSamples) continue;
      this.powers.push(this.sum / this.stepSamples);
      [this.sum, this.inStep] = [0, 0];
    }
  }

  /** How loud the last 0.4 s are; −Infinity before. */
  get momentary(): number {
    return loudnessOf(this.powerBefore(this.powers.length, MOMENTARY));
  }

  /** How loud the last 3 s are; −Infinity before. */
  get shortTerm(): number {
    return loudnessOf(this.powerBefore(this.powers.length, SHORT_TERM));
  }

  /** What all that was added comes to. */
  get loudness(): Loudness {
    const momentary = this.blocks(MOMENTARY);
    const shortTerm = this.blocks(SHORT_TERM);
    return {
      integrated: loudnessOf(gatedPower(momentary)),
      range: rangeOf(shortTerm),
      momentaryMax: loudnessOf(momentary.reduce((most, power) => max(most, power), 0)),
      shortTermMax: loudnessOf(shortTerm.reduce((most, power) => max(most, power), 0)),
      truePeak: 20 * log10(max(this.peak, this.lastPeak())),
    };
  }

  // The mean of so many steps that end there; 0 where there are not so many.
  private powerBefore(end: number, steps: number): number {
    return end < steps ? 0 : meanOf(this.powers.slice(end - steps, end));
  }

  private blocks(steps: number): number[] {
    return this.powers.slice(steps - 1).map((_, index) => this.powerBefore(index + steps, steps));
  }

  private addPeaks(samples: Float32Array, channel: number): void {
    const tail = this.tails[channel]!;
    const joined = new Float32Array(tail.length + samples.length);
    joined.set(tail);
    joined.set(samples, tail.length);
    this.peak = max(this.peak, truePeak(joined));
    this.tails[channel] = joined.slice(joined.length - tail.length);
  }

  // Between the last samples, with silence after them.
  private lastPeak(): number {
    const ends = this.tails.map((tail) => {
      const padded = new Float32Array(2 * tail.length);
      padded.set(tail);
      return truePeak(padded);
    });
    return max(0, ...ends);
  }
}

function gatedPower(blocks: readonly number[]): number {
  const audible = blocks.filter((power) => power > powerOf(ABSOLUTE_GATE));
  if (audible.length === 0) return 0;
  const gate = meanOf(audible) * pow(10, RELATIVE_GATE / 10);
  return meanOf(audible.filter((power) => power > gate));
}

function rangeOf(blocks: readonly number[]): number {
  const audible = blocks.filter((power) => power > powerOf(ABSOLUTE_GATE));
  if (audible.length === 0) return 0;
  const gate = meanOf(audible) * pow(10, RANGE_GATE / 10);
  const sorted = audible.filter((power) => power >= gate).sort((a, b) => a - b);
  const at = (share: number): number => loudnessOf(sorted[floor((sorted.length - 1) * share + 0.5)]!);
  return at(0.95) - at(0.1);
}
