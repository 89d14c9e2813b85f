import { mixDown, mixedChannels, type SoundBlock, type SoundSupply } from '@hastig/core';
import type { InputAudioTrack } from 'mediabunny';
import { decodedSound } from './decoded-sound';

/** Samples decoded and kept at once: half a second at 48 kHz. */
const PAGE = 24_000;
/** Pages kept: about a minute. */
const MOST_PAGES = 128;

/**
 * Reads the sound of a source, any stretch of it at a time. Keeps a bounded number of decoded pages, so that a long source costs
 * no more memory than a short one.
 */
export class SoundReader implements SoundSupply {
  /** Of what is read: more than two are mixed down to two. */
  readonly channels: 1 | 2;
  private readonly pages = new Map<number, Promise<Float32Array[]>>();

  /**
   * @param fileChannels of the file
   * @param pictureStart seconds at which the source's first frame is shown
   * @param pictureRate frames per second of the file's picture, as frames are counted
   */
  constructor(
    private readonly track: InputAudioTrack,
    private readonly fileChannels: number,
    readonly sampleRate: number,
    readonly pictureStart: number,
    readonly pictureRate: number,
  ) {
    this.channels = mixedChannels(fileChannels);
  }

  /** Decodes the beginning. @throws what the decoder throws */
  async check(): Promise<void> {
    await this.page(0);
  }

  async block(start: number, end: number): Promise<SoundBlock> {
    const length = Math.max(0, end - start);
    const channels = Array.from({ length: this.channels }, () => new Float32Array(length));
    for (let page = Math.max(0, Math.floor(start / PAGE)); page * PAGE < end; page++) {
      const samples = await this.page(page);
      const at = page * PAGE - start;
      const [from, to] = [Math.max(0, -at), Math.min(PAGE, end - page * PAGE)];
      channels.forEach((channel, index) => channel.set(samples[index]!.subarray(from, to), at + from));
    }
    return { start, channels };
  }

  private page(page: number): Promise<Float32Array[]> {
    const known = this.pages.get(page);
    if (known) {
      // Last used, last dropped.
      this.pages.delete(page);
      this.pages.set(page, known);
      return known;
    }
    const decoded = this.decode(page);
    this.pages.set(page, decoded);
    decoded.catch(() => this.pages.delete(page));
    if (this.pages.size > MOST_PAGES) this.pages.delete(this.pages.keys().next().value!);
    return decoded;
  }

  private async decode(page: number): Promise<Float32Array[]> {
    const { track, fileChannels: channels, sampleRate } = this;
    const out = Array.from({ length: channels }, () => new Float32Array(PAGE));
    const start = page * PAGE;
    for await (const { at, samples } of decodedSound(track, { channels, sampleRate }, start, start + PAGE)) {
      samples.forEach((channel, index) => out[index]!.set(channel, at - start));
    }
    return mixDown(out);
  }
}
