import { AudioSample, type AudioSampleSource } from 'mediabunny';
import type { ProgramSound } from '../media/program-sound';

/** Samples per second of every file's sound. */
export const SOUND_RATE = 48_000;
/** Output samples encoded at a time. */
const PIECE = 24_000;

/** Feeds the sound of a program to an encoder, piece after piece. */
export class SoundFeed {
  private done = 0;

  /**
   * @param samples of the whole file
   * @param delay samples by which the encoder comes late; taken off the time stamps, so that sound and picture meet
   */
  constructor(
    private readonly track: AudioSampleSource,
    private readonly sound: ProgramSound,
    readonly samples: number,
    private readonly delay: number,
  ) {}

  /** Encodes all that lies before a sample. */
  async upTo(sample: number): Promise<void> {
    while (this.done < Math.min(sample, this.samples)) {
      const count = Math.min(PIECE, this.samples - this.done);
      const { channels } = await this.sound.read(this.done, count, SOUND_RATE);
      await this.add(channels ?? [new Float32Array(count), new Float32Array(count)]);
      this.done += count;
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
      timestamp: (this.done - this.delay) / SOUND_RATE,
    });
    try {
      await this.track.add(sample);
    } finally {
      sample.close();
    }
  }
}
