import type { SoundBlock, SoundSupply } from '../run';

// Looked up once: the loops below run for every sample.
const { abs, ceil, cos, floor, max, min, PI, round } = Math;

/** Seconds over which the greatest value is taken, and how many of them before one it is compared with. */
const HOP = 0.001;
const BEFORE = 10;
/** Times louder than what comes before it that an attack is, and the least it is. */
const LOUDER = 4;
const LEAST = 0.003;
/** Seconds before an attack in which it comes in, after it in which it is heard whole, and in which it then goes. */
const IN = 0.001;
const WHOLE = 0.006;
const OUT = 0.008;
/** Seconds of the source that are listened to at once. */
const CHUNK = 1;

/** How much of a source belongs to an attack, so many samples after it. */
function shareOf(samples: number, sampleRate: number): number {
  const seconds = samples / sampleRate;
  if (seconds < -IN || seconds >= WHOLE + OUT) return 0;
  if (seconds < 0) return 0.5 + 0.5 * cos((PI * seconds) / IN);
  return seconds < WHOLE ? 1 : 0.5 + 0.5 * cos((PI * (seconds - WHOLE)) / OUT);
}

/**
 * The attacks of a source: where it suddenly gets loud. Where sound runs fast, a block of it is longer than what lies between two
 * blocks, so that an attack would be lost or come too early; it is taken out there and put back as it is, in its place.
 *
 * What is an attack follows from the samples near it alone, so that it is one wherever the source is read from.
 */
export class Attacks {
  private readonly chunks = new Map<number, Promise<number[]>>();

  constructor(private readonly supply: SoundSupply) {}

  /** Samples at which attacks begin, from `start` on, `end` not included; in order. */
  async between(start: number, end: number): Promise<number[]> {
    const size = round(CHUNK * this.supply.sampleRate);
    const found: number[] = [];
    for (let chunk = floor(start / size); chunk * size < end; chunk++) {
      let attacks = this.chunks.get(chunk);
      if (!attacks) this.chunks.set(chunk, (attacks = this.listen(chunk * size, size)));
      for (const at of await attacks) if (at >= start && at < end) found.push(at);
    }
    return found;
  }

  /** A stretch of the source without its attacks. */
  async without(start: number, end: number): Promise<SoundBlock> {
    const { sampleRate } = this.supply;
    const block = await this.supply.block(start, end);
    const [early, late] = [ceil(IN * sampleRate), ceil((WHOLE + OUT) * sampleRate)];
    const attacks = await this.between(start - late, end + early);
    if (attacks.length === 0) return block;
    const channels = block.channels.map((samples) => samples.slice());
    for (const at of attacks) {
      for (let n = max(start, at - early); n < min(end, at + late); n++) {
        const share = 1 - shareOf(n - at, sampleRate);
        for (const samples of channels) samples[n - start]! *= share;
      }
    }
    return { ...block, channels };
  }

  /**
   * Lays an attack over samples, as it is in the source.
   *
   * @param place where in them it begins
   * @param backwards whether it is heard backwards
   */
  async add(at: number, channels: readonly Float32Array[], place: number, backwards: boolean): Promise<void> {
    const { sampleRate } = this.supply;
    const [early, late] = [ceil(IN * sampleRate), ceil((WHOLE + OUT) * sampleRate)];
    const { channels: source } = await this.supply.block(at - early, at + late);
    channels.forEach((samples, channel) => {
      const own = source[channel]!;
      for (let n = -early; n < late; n++) {
        const to = place + (backwards ? -n : n);
        if (to >= 0 && to < samples.length) samples[to]! += shareOf(n, sampleRate) * own[n + early]!;
      }
    });
  }

  private async listen(start: number, size: number): Promise<number[]> {
    const hop = round(HOP * this.supply.sampleRate);
    // Hops lie at the same samples whatever is listened to.
    const first = ceil(start / hop);
    const end = ceil((start + size) / hop);
    const { channels } = await this.supply.block((first - BEFORE) * hop, end * hop);
    const loud = new Float32Array(end - first + BEFORE);
    for (const samples of channels) {
      for (let k = 0; k < loud.length; k++) {
        for (let n = k * hop; n < (k + 1) * hop; n++) loud[k] = max(loud[k]!, abs(samples[n]!));
      }
    }
    const found: number[] = [];
    for (let k = BEFORE; k < loud.length; k++) {
      if (loud[k]! < LEAST) continue;
      let before = 0;
      for (let near = k - BEFORE; near < k; near++) before = max(before, loud[near]!);
      if (loud[k]! >= LOUDER * before)
        found.push((first - BEFORE) * hop + begins(channels, k * hop, (k + 1) * hop, loud[k]! / 2));
    }
    return found;
  }
}

/** The first of some samples that is so loud in any channel. */
function begins(channels: readonly Float32Array[], from: number, to: number, level: number): number {
  for (let n = from; n < to; n++) if (channels.some((samples) => abs(samples[n]!) >= level)) return n;
  return from;
}
