// Whoever compiles this file needs the types too.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./gifenc.d.ts" />
import { rateToNumber } from '@hastig/core';
import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import type { VideoSample } from 'mediabunny';
import type { RenderJob } from './job';

/** Colours of a picture: as many as the format can have (GIF89a, 1990). */
const COLOURS = 256;

/** Times of a GIF are hundredths of a second. */
const TICKS = 100;

/** Hundredths of a second at which picture `n` begins: rounded each by itself, so that no error adds up. */
const gifTick = (n: number, rate: number): number => Math.round((n * TICKS) / rate);

/** Codes pictures of a GIF, each in the colours that suit it best; it plays over and over. */
export class GifCoder {
  private readonly context: OffscreenCanvasRenderingContext2D;
  private readonly gif = GIFEncoder({ auto: false });
  private readonly rate: number;
  private count = 0;

  constructor(private readonly job: Pick<RenderJob, 'width' | 'height' | 'rate'>) {
    this.rate = rateToNumber(job.rate);
    const canvas = new OffscreenCanvas(job.width, job.height);
    this.context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  }

  /** The next picture; gives what it adds to the file. */
  code(sample: VideoSample): Uint8Array<ArrayBuffer> {
    const { width, height } = this.job;
    sample.draw(this.context, 0, 0, width, height);
    const { data } = this.context.getImageData(0, 0, width, height);
    const palette = quantize(data, COLOURS, { format: 'rgb565' });
    const n = this.count++;
    const delay = (gifTick(n + 1, this.rate) - gifTick(n, this.rate)) * (1000 / TICKS);
    if (n === 0) this.gif.writeHeader();
    this.gif.writeFrame(applyPalette(data, palette, 'rgb565'), width, height, { palette, delay, first: n === 0 });
    return this.fresh();
  }

  /** What ends the file. */
  end(): Uint8Array<ArrayBuffer> {
    this.gif.finish();
    return this.fresh();
  }

  // What was handed on is let go of, so that a long piece takes no more memory than a short one.
  private fresh(): Uint8Array<ArrayBuffer> {
    const piece = this.gif.bytesView().slice();
    this.gif.reset();
    return piece;
  }
}
