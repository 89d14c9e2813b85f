import {
  mixDown,
  mixedChannels,
  readVarispeed,
  soundExtent,
  type SoundBlock,
  type SoundPiece,
  type SoundSource,
} from '@hastig/core';
import type { InputAudioTrack } from 'mediabunny';
import { decodedSound } from './decoded-sound';

/** Samples decoded and kept at once: half a second at 48 kHz. */
const PAGE = 24_000;
/** Pages kept: about a minute. */
const MOST_PAGES = 128;
/** Source samples read for one piece of output at most; faster passages are cut into smaller pieces. */
const MOST_EXTENT = 40 * PAGE;

/**
 * Reads the sound of a source at a timing, any stretch of the output at a time. Keeps a bounded number of
 * decoded pages, so that a long source costs no more memory than a short one.
 */
export class SoundReader {
  private readonly pages = new Map<number, Promise<Float32Array[]>>();

  /**
   * @param channels of the file; more than two are mixed down to two
   * @param pictureStart seconds at which the source's first frame is shown
   * @param pictureRate frames per second of the file's picture, as frames are counted
   */
  constructor(
    private readonly track: InputAudioTrack,
    readonly channels: number,
    private readonly sampleRate: number,
    private readonly pictureStart: number,
    private readonly pictureRate: number,
  ) {}

  /**
   * Reads a piece of retimed sound, its pitch following the speed, and adds it to what is there.
   *
   * @param outputRate output samples per second
   * @param out one array a channel, whose first sample is the output's sample `first`
   */
  async add(wanted: SoundPiece, outputRate: number, out: readonly Float32Array[], first: number): Promise<void> {
    const { sampleRate, pictureStart, pictureRate } = this;
    const source: SoundSource = { sampleRate, pictureStart, pictureRate };
    const pieces = [wanted];
    while (pieces.length > 0) {
      const piece = pieces.shift()!;
      const extent = soundExtent(piece, source, outputRate);
      if (extent.end - extent.start > MOST_EXTENT && piece.count > 64) {
        const half = piece.count >> 1;
        pieces.unshift({ ...piece, count: half }, { ...piece, first: piece.first + half, count: piece.count - half });
        continue;
      }
      const block = await this.block(extent.start, extent.end);
      readVarispeed(piece, source, outputRate, block, out, piece.first - first);
    }
  }

  /** Decodes the beginning. @throws what the decoder throws */
  async check(): Promise<void> {
    await this.page(0);
  }

  private async block(start: number, end: number): Promise<SoundBlock> {
    const length = Math.max(0, end - start);
    const channels = Array.from({ length: mixedChannels(this.channels) }, () => new Float32Array(length));
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
    const { track, channels, sampleRate } = this;
    const out = Array.from({ length: channels }, () => new Float32Array(PAGE));
    const start = page * PAGE;
    for await (const { at, samples } of decodedSound(track, { channels, sampleRate }, start, start + PAGE)) {
      samples.forEach((channel, index) => out[index]!.set(channel, at - start));
    }
    return mixDown(out);
  }
}
