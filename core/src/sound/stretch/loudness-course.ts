import type { SoundFocus } from '@hastig/contract';

// Looked up once: the loops below run for every sample.
const { ceil, exp, floor, max, min, round, sqrt, PI } = Math;

/** Hertz at which the bands meet whose loudness is followed. */
const EDGES = [600, 3000] as const;
const BANDS = EDGES.length + 1;
/** Seconds of a step in which loudness is measured. */
const STEP = 0.001;
/** Steps to either side over which it is smoothed: for strokes as short as may be, for a voice longer than one of its periods. */
export const REACH: Record<SoundFocus, number> = { music: 5, speech: 8 };
/** By how many times loudness is brought up or down at most. */
const MOST = 3;
/** The part of a band's mean power that counts as silence. */
const SILENCE = 1e-3;

/** A band's power in steps of a millisecond, all channels as one. */
type Course = readonly Float64Array[];

/** Parts a sample into bands whose sum it is: low-passes one after the other, what they leave is the next band. */
class Parting {
  private readonly weights: number[];
  private readonly held: Float64Array;

  constructor(sampleRate: number) {
    this.weights = EDGES.map((hertz) => 1 - exp((-2 * PI * hertz) / sampleRate));
    this.held = new Float64Array(2 * EDGES.length);
  }

  /** Writes a sample's bands, the lowest first. */
  part(sample: number, into: Float64Array): void {
    const { held, weights } = this;
    let rest = sample;
    for (let edge = 0; edge < weights.length; edge++) {
      const weight = weights[edge]!;
      const once = (held[2 * edge]! += weight * (rest - held[2 * edge]!));
      const low = (held[2 * edge + 1]! += weight * (once - held[2 * edge + 1]!));
      into[edge] = low;
      rest -= low;
    }
    into[weights.length] = rest;
  }
}

function smoothed(values: Float64Array, reach: number): Float64Array {
  const out = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) {
    let [sum, weights] = [0, 0];
    for (let at = max(0, i - reach), to = min(values.length - 1, i + reach); at <= to; at++) {
      const far = (at - i) / (reach + 1);
      const weight = 1 - far * far;
      sum += weight * values[at]!;
      weights += weight;
    }
    out[i] = sum / weights;
  }
  return out;
}

/** Listens to the course of loudness of sound that comes block by block, so that only a block is held at a time. */
export class LoudnessListener {
  private readonly step: number;
  private readonly partings: Parting[];
  private readonly powers: Float64Array[];
  private readonly bands = new Float64Array(BANDS);
  private heard = 0;

  /**
   * @param sampleRate samples a second
   * @param length samples that come in all
   */
  constructor(channels: number, sampleRate: number, length: number) {
    this.step = stepOf(sampleRate);
    this.partings = Array.from({ length: channels }, () => new Parting(sampleRate));
    this.powers = Array.from({ length: BANDS }, () => new Float64Array(ceil(length / this.step)));
  }

  /** The next samples; one array a channel, all as long. */
  push(channels: readonly Float32Array[]): void {
    const { step, partings, powers, bands, heard } = this;
    channels.forEach((samples, channel) => {
      const parting = partings[channel]!;
      for (let n = 0; n < samples.length; n++) {
        parting.part(samples[n]!, bands);
        const at = floor((heard + n) / step);
        for (let band = 0; band < BANDS; band++) powers[band]![at]! += bands[band]! * bands[band]!;
      }
    });
    this.heard += channels[0]?.length ?? 0;
  }

  /** What was heard. @param reach steps to either side over which it is smoothed */
  course(reach: number): Course {
    return this.powers.map((power) => smoothed(power, reach));
  }
}

/** The course of loudness of sound that is held whole, from its first sample on. */
export function courseOfLoudness(channels: readonly Float32Array[], sampleRate: number, reach: number): Course {
  const listener = new LoudnessListener(channels.length, sampleRate, channels[0]?.length ?? 0);
  listener.push(channels);
  return listener.course(reach);
}

/** Samples of a step. */
export const stepOf = (sampleRate: number): number => round(STEP * sampleRate);

/**
 * Gives stretched sound the course of loudness its source has, band by band, in place. A block that is laid over others is longer
 * than a stroke in dense music: what swells in it early, or rings on where the source is quiet again, is brought down, and what sets
 * in is brought up. All channels by the same, so that nothing moves from side to side.
 *
 * @param made one array a channel, samples
 * @param source the course of the source's loudness
 * @param reach steps to either side over which that of what was made is smoothed
 * @param stepAt the source's step, between steps too, that is heard at a step of what was made
 */
export function followLoudness(
  made: readonly Float32Array[],
  source: Course,
  sampleRate: number,
  reach: number,
  stepAt: (step: number) => number,
): void {
  const step = stepOf(sampleRate);
  const own = courseOfLoudness(made, sampleRate, reach);
  const steps = own[0]!.length;
  const places = Float64Array.from({ length: steps + 1 }, (_, at) => stepAt(at));
  const gains = own.map((powers, band) => {
    const wanted = source[band]!;
    const last = wanted.length - 1;
    const silence = SILENCE * (wanted.reduce((sum, power) => sum + power, 0) / max(1, wanted.length)) + 1e-12;
    return Float64Array.from({ length: steps + 1 }, (_, at) => {
      const place = min(last, max(0, places[at]!));
      const low = floor(place);
      const power = wanted[low]! + (place - low) * ((wanted[low + 1] ?? wanted[low]!) - wanted[low]!);
      const gain = sqrt((power + silence) / (powers[min(at, steps - 1)]! + silence));
      return max(1 / MOST, min(MOST, gain));
    });
  });
  const bands = new Float64Array(BANDS);
  for (const samples of made) {
    const parting = new Parting(sampleRate);
    for (let at = 0, n = 0; at < steps; at++) {
      const end = min(samples.length, n + step);
      for (let share = 0; n < end; n++, share += 1 / step) {
        parting.part(samples[n]!, bands);
        let sum = 0;
        for (let band = 0; band < BANDS; band++) {
          const [from, to] = [gains[band]![at]!, gains[band]![at + 1]!];
          sum += bands[band]! * (from + share * (to - from));
        }
        samples[n] = sum;
      }
    }
  }
}
