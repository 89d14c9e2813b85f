import type { SoundFocus } from '@hastig/contract';
import { stretchModule, type StretchModule } from './wasm';

/** Seconds of one block that is heard as a whole: short for attacks, long for tone. */
const BLOCKS: Record<SoundFocus, number> = { music: 0.12, speech: 0.05 };
/** Blocks begin four times in their length. */
const OVERLAP = 4;
/** What is fainter (180 dB below full) is silence: numbers that are almost 0 take a processor many times as long. */
const LEAST = 1e-9;
/** The library takes phases at random where sound runs slower than this. */
const LEAST_RATE = 0.5;

/**
 * Makes sound last longer or shorter without changing its pitch: blocks of the source are laid over one another so that their
 * waves go on. The work is done by Signalsmith Stretch (MIT).
 */
export class Stretcher {
  /** Samples of a block. */
  readonly block: number;
  /** Samples from one block to the next; each gives so many samples. */
  readonly interval: number;
  /** Samples of the source that are read for one block. */
  readonly reads: number;
  /** Samples of the source from a block's moment to the end of what is read for it. */
  readonly ahead: number;
  /** Samples by which a block is given before its moment. */
  readonly delay: number;
  private readonly address: number;

  private constructor(
    private readonly module: StretchModule,
    readonly channels: number,
    sampleRate: number,
    focus: SoundFocus,
  ) {
    this.interval = Math.round((BLOCKS[focus] * sampleRate) / OVERLAP);
    this.block = this.interval * OVERLAP;
    module._configure(channels, this.block, this.interval, false);
    module._reset();
    // One interval more than a block: how far waves have gone is seen from two blocks, one interval apart.
    this.reads = this.block + this.interval;
    this.address = module._setBuffers(channels, this.reads);
    this.ahead = module._inputLatency();
    this.delay = module._outputLatency();
  }

  /** @param sampleRate of the source */
  static async open(channels: number, sampleRate: number, focus: SoundFocus): Promise<Stretcher> {
    return new Stretcher(await stretchModule(), channels, sampleRate, focus);
  }

  /** Forgets all that was heard. */
  reset(): void {
    this.module._reset();
  }

  /**
   * Moves what makes a voice the one it is.
   *
   * @param semitones up or down
   */
  moveFormants(semitones: number): void {
    this.module._setFormantSemitones(semitones, false);
    this.module._setFormantBase(0);
  }

  /**
   * The next block.
   *
   * @param read `reads` samples of each channel, in the order in which they are heard
   * @param rate samples of the source that pass with each sample given, 0 or more
   * @returns `interval` samples of each channel; they hold until the next block
   */
  next(read: readonly Float32Array[], rate: number): Float32Array[] {
    const { module, address, reads, channels, interval } = this;
    read.forEach((samples, channel) =>
      copyAudible(samples, new Float32Array(module.HEAP8.buffer, address + 4 * reads * channel, reads)),
    );
    module._seek(reads, Math.max(LEAST_RATE, rate));
    module._process(0, interval);
    return Array.from(
      { length: channels },
      (_, channel) => new Float32Array(module.HEAP8.buffer, address + 4 * reads * (channels + channel), interval),
    );
  }
}

function copyAudible(from: Float32Array, to: Float32Array): void {
  for (let n = 0; n < to.length; n++) {
    const value = from[n]!;
    to[n] = value < LEAST && value > -LEAST ? 0 : value;
  }
}
