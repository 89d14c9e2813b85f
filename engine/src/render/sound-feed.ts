import { AudioSample, type AudioSampleSource } from 'mediabunny';
import type { MixedSound } from '@hastig/core';
import { mixedToOne } from '../media/mixed-to-one';
import type { SoundSide } from './sound-side';

/** Pieces of a second that are encoded at a time. */
const PIECES = 2;

interface FedSound {
  /** Samples of the whole file. */
  samples: number;
  /** Samples by which the encoder comes late; taken off the time stamps, so that sound and picture meet. */
  delay: number;
  /** Pieces that are asked for before they are needed, while another worker makes them. */
  ahead: number;
  /** Samples a second, and channels: both sides, or one that is the mean of both. */
  sampleRate: number;
  channels: number;
  /** The sample of the program with which it begins. */
  first: number;
}

/** Feeds the sound of a program to an encoder, piece after piece. */
export class SoundFeed {
  private done = 0;
  private asked = 0;
  private readonly coming: Promise<MixedSound>[] = [];

  constructor(
    private readonly track: Pick<AudioSampleSource, 'add'>,
    private readonly sound: Pick<SoundSide, 'read'>,
    private readonly fed: FedSound,
  ) {
    this.ask(fed.ahead);
  }

  private get piece(): number {
    return this.fed.sampleRate / PIECES;
  }

  /** Encodes all that lies before a moment of the file, in seconds. */
  async upTo(seconds: number): Promise<void> {
    const { samples, sampleRate, ahead, channels: wanted } = this.fed;
    const sample = Math.round(seconds * sampleRate);
    while (this.done < Math.min(sample, samples)) {
      this.ask(1);
      const { channels } = await this.coming.shift()!;
      this.ask(ahead);
      const count = Math.min(this.piece, samples - this.done);
      const both = channels ?? [new Float32Array(count), new Float32Array(count)];
      await this.add(wanted === 1 ? [mixedToOne(both)] : both);
      this.done += count;
    }
  }

  /** Has so many pieces on their way. */
  private ask(pieces: number): void {
    while (this.coming.length < pieces && this.asked < this.fed.samples) {
      const { samples, first, sampleRate } = this.fed;
      const count = Math.min(this.piece, samples - this.asked);
      const piece = this.sound.read(first + this.asked, count, sampleRate);
      // What fails is told when it is needed; until then nobody waits for it.
      piece.catch(() => undefined);
      this.coming.push(piece);
      this.asked += count;
    }
  }

  private async add(channels: readonly Float32Array[]): Promise<void> {
    const count = channels[0]!.length;
    const data = new Float32Array(count * channels.length);
    channels.forEach((channel, index) => data.set(channel, index * count));
    const sample = new AudioSample({
      data,
      format: 'f32-planar',
      numberOfChannels: channels.length,
      sampleRate: this.fed.sampleRate,
      timestamp: (this.done - this.fed.delay) / this.fed.sampleRate,
    });
    try {
      await this.track.add(sample);
    } finally {
      sample.close();
    }
  }
}
