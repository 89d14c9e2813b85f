import type { SoundBlock, SoundSupply } from '../run';
import { extrapolate } from './extrapolate';
import { attackLead, findAttacks, hopStart } from './find-attacks';

// Looked up once: the loops below run for every sample.
const { ceil, floor, max, min, round } = Math;

/** Seconds before an attack from which on it is taken out, and after it up to which. */
const EARLY = 0.002;
const LATE = 0.005;
/** Seconds at both ends of that in which what is put in its place goes over into the source. */
const EDGE = 0.001;
/** Seconds to either side from which is worked out what rings beneath it, and the samples each next one is predicted from. */
const NEAR = 0.016;
const ORDER = 48;
/** Times the energy of what rang before that what rings after must have to drown it. */
const DROWNS = 4;
/** Seconds of the source that are listened to at once. */
const CHUNK = 1;

/** A stretch of the source that holds an attack. One array a channel each. */
interface Parted {
  start: number;
  /** What rang before it, going on beneath it. */
  before: readonly Float32Array[];
  /** What rings after it, from its beginning on. */
  after: readonly Float32Array[];
  /** What it adds to both. */
  attack: readonly Float32Array[];
  /** Whether it drowns what rang before. */
  drowns: boolean;
}

/** Attacks past which sound is to be heard as if they did not come, or had not been: by their samples. */
export interface Bounds {
  low?: number;
  high?: number;
}

/** Samples before an attack in which what rang before gives way to what rings after it. */
export const turnLength = (sampleRate: number): number => ceil(EARLY * sampleRate);

/**
 * The attacks of a source, parted from what rings before and after them. A block of sound that is stretched is longer than an attack:
 * it would smear it, and where sound runs fast lose it between two blocks. So only what rings is stretched, and the attack is laid
 * over it as it is, in its place.
 */
export class Attacks {
  private readonly chunks = new Map<number, Promise<number[]>>();
  private readonly parts = new Map<number, Promise<Parted>>();

  constructor(private readonly supply: SoundSupply) {}

  /** Samples at which attacks begin, from `start` on, `end` not included; in order. */
  async between(start: number, end: number): Promise<number[]> {
    const size = round(CHUNK * this.supply.sampleRate);
    const found: number[] = [];
    for (let chunk = floor(start / size); chunk * size < end; chunk++) {
      let attacks = this.chunks.get(chunk);
      if (!attacks) this.chunks.set(chunk, (attacks = this.listen(chunk * size, (chunk + 1) * size)));
      for (const at of await attacks) if (at >= start && at < end) found.push(at);
    }
    return found;
  }

  /**
   * What rings in a stretch of the source, without its attacks. Past its bounds it is mirrored, so that nothing from there is heard.
   *
   * @returns one array a channel
   */
  async ringing(start: number, end: number, bounds: Bounds = {}): Promise<readonly Float32Array[]> {
    const { sampleRate } = this.supply;
    const low = bounds.low === undefined ? -Infinity : bounds.low - ceil(EARLY * sampleRate);
    const high = bounds.high === undefined ? Infinity : bounds.high + ceil(LATE * sampleRate);
    if (start >= low && end <= high) return this.within(start, end, bounds);
    // As far as the mirrored reaches inwards.
    const from = max(low, min(start, high - (end - high)));
    const to = min(high, max(end, low + (low - start)));
    const inside = await this.within(from, to, bounds);
    return inside.map((samples) => {
      const out = new Float32Array(end - start);
      for (let n = 0; n < out.length; n++) out[n] = samples[mirrored(start + n, low, high) - from] ?? 0;
      return out;
    });
  }

  /** What an attack adds to what rings. */
  async alone(at: number): Promise<SoundBlock> {
    const { start, attack } = await this.part(at);
    return { start, channels: attack };
  }

  /** Whether what rang before an attack is drowned by what rings after it, so that nobody hears how it goes on. */
  async drowns(at: number): Promise<boolean> {
    return (await this.part(at)).drowns;
  }

  private async within(start: number, end: number, { low, high }: Bounds): Promise<readonly Float32Array[]> {
    const { sampleRate } = this.supply;
    const { channels: source } = await this.supply.block(start, end);
    const attacks = await this.between(start - ceil(LATE * sampleRate), end + ceil(EARLY * sampleRate));
    if (attacks.length === 0) return source;
    const channels = source.map((samples) => samples.slice());
    for (const at of attacks) {
      const { start: first, before, after, attack } = await this.part(at);
      const [from, to] = [max(start, first), min(end, first + (attack[0]?.length ?? 0))];
      channels.forEach((samples, channel) => {
        for (let n = from; n < to; n++) {
          if (at === low) samples[n - start] = after[channel]![n - first]!;
          else if (at === high) samples[n - start] = before[channel]![n - first]!;
          else samples[n - start]! -= attack[channel]![n - first]!;
        }
      });
    }
    return channels;
  }

  private part(at: number): Promise<Parted> {
    let part = this.parts.get(at);
    if (!part) this.parts.set(at, (part = this.partAt(at)));
    return part;
  }

  private async partAt(at: number): Promise<Parted> {
    const { sampleRate } = this.supply;
    const near = round(NEAR * sampleRate);
    const edge = round(EDGE * sampleRate);
    const turn = turnLength(sampleRate);
    const start = at - turn;
    const count = turn + ceil(LATE * sampleRate);
    const { channels } = await this.supply.block(start - near, start + count + near);
    const parts = channels.map((samples) => {
      const own = samples.subarray(near, near + count);
      const on = goesOn(samples.subarray(0, near), count);
      const back = goesOn(samples.subarray(near + count).toReversed(), count).reverse();
      const before = own.map((value, n) => value + gone(n, edge) * (on[n]! - value));
      const after = own.map((value, n) => value + gone(count - 1 - n, edge) * (back[n]! - value));
      const attack = own.map((value, n) => {
        const turned = gone(n, turn);
        return value - (1 - turned) * before[n]! - turned * after[n]!;
      });
      return { before, after, attack };
    });
    const of = (which: 'before' | 'after' | 'attack'): Float32Array[] => parts.map((part) => part[which]);
    const sum = (from: number, to: number): number =>
      channels.reduce((total, samples) => total + energy(samples.subarray(from, to)), 0);
    const drowns = sum(near + count, near + count + near) > DROWNS * sum(0, near);
    return { start, before: of('before'), after: of('after'), attack: of('attack'), drowns };
  }

  private async listen(from: number, to: number): Promise<number[]> {
    const { sampleRate } = this.supply;
    const start = hopStart(from, sampleRate);
    const lead = attackLead(sampleRate);
    const { channels } = await this.supply.block(start - lead, hopStart(to, sampleRate));
    return findAttacks(channels, sampleRate).map((at) => start - lead + at);
  }
}

/**
 * How sound goes on: tones as they are predicted; what can't be, as noise, as what there was of it, turned back.
 *
 * @param known more samples than are asked for
 */
function goesOn(known: Float32Array, count: number): Float64Array {
  const predicted = extrapolate(known, count, ORDER);
  const turned = Float64Array.from(known.subarray(known.length - count)).reverse();
  return energy(predicted) > energy(turned) / 2 ? predicted : turned;
}

function energy(samples: Float32Array | Float64Array): number {
  let sum = 0;
  for (const value of samples) sum += value * value;
  return sum;
}

/** Where a sample lies that is mirrored at both bounds until it is between them. */
function mirrored(at: number, low: number, high: number): number {
  let n = at;
  while (n < low || n >= high) n = n < low ? 2 * low - n : 2 * high - 1 - n;
  return n;
}

/** How far a turn has gone, from 0 to 1, so many samples into it. */
export function gone(samples: number, length: number): number {
  return samples <= 0 ? 0 : samples >= length ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * samples) / length);
}
