import { AudioSample, type AudioSampleSource } from 'mediabunny';
import type { MixedSound } from '@hastig/core';
import type { SoundSide } from './sound-side';

/** Samples per second of every file's sound. */
export const SOUND_RATE = 48_000;
/** Output samples encoded at a time. */
const PIECE = 24_000;

interface FedSound {
  /** Samples of the whole file. */
  samples: number;
  /** Samples by which the encoder comes late; taken off the time stamps, so that sound and picture meet. */
  delay: number;
  /** Pieces that are asked for before they are needed, while another worker makes them. */
  ahead: number;
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

  /** Encodes all that lies before a sample. */
  async upTo(sample: number): Promise<void> {
    const { samples, ahead } = this.fed;
    while (this.done < Math.min(sample, samples)) {
      this.ask(1);
      const { channels } = await this.coming.shift()!;
      this.ask(ahead);
      const count = Math.min(PIECE, samples - this.done);
      await this.add(channels ?? [new Float32Array(count), new Float32Array(count)]);
      this.done += count;
    }
  }

  /** Has so many pieces on their way. */
  private ask(pieces: number): void {
    while (this.coming.length < pieces && this.asked < this.fed.samples) {
      const count = Math.min(PIECE, this.fed.samples - this.asked);
      const piece = this.sound.read(this.asked, count, SOUND_RATE);
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
      sampleRate: SOUND_RATE,
      timestamp: (this.done - this.fed.delay) / SOUND_RATE,
    });
    try {
      await this.track.add(sample);
    } finally {
      sample.close();
    }
  }
}
