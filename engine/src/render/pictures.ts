import {
  framesOf,
  leafFrames,
  samePicture,
  singleLeaf,
  toPrimariesOf625,
  type PicturePlan,
  type SeenLeaf,
  type SeenPicture,
} from '@hastig/core';
import { VideoSample } from 'mediabunny';
import type { SourcePool } from '../media/source-pool';
import { drawPicture } from '../picture/draw';
import { framesByLane, lanesOf, type LaneFrame } from '../picture/lanes';
import { PixelSheets, pixelsOf } from '../picture/pixels';
import { PlaneMaker } from '../picture/plane-maker';
import { PictureSamples } from '../picture/samples';
import { fileColours, inColours, type FileColours } from './colour';
import type { RenderJob } from './job';

/** Different source frames decoded ahead of the encoder, and the pictures in which they are looked for. */
const LOOK_AHEAD = 12;
const PICTURES_AHEAD = 4 * LOOK_AHEAD;

/**
 * The pictures of a file, one after the other. A source's frame that has the file's size and colours already goes to the
 * encoder as the decoder gave it; what must be scaled, turned or laid over something is drawn, and brought to the file's
 * colours here: an encoder that is given both would write each in its own.
 */
export class RenderPictures {
  private readonly context: OffscreenCanvasRenderingContext2D;
  private readonly exposed: Uint8ClampedArray;
  private readonly sheets = new PixelSheets();
  private maker: PlaneMaker | undefined;
  private colours: Promise<FileColours> | undefined;

  constructor(
    private readonly job: Pick<RenderJob, 'program' | 'width' | 'height'>,
    private readonly plan: PicturePlan,
    private readonly pool: SourcePool,
  ) {
    // Read back for every picture, so it stays where the processor is.
    const canvas = new OffscreenCanvas(job.width, job.height);
    this.context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
    this.context.imageSmoothingQuality = 'high';
    this.exposed = new Uint8ClampedArray(4 * job.width * job.height);
  }

  /**
   * Picture `n`, without a time. The caller closes it.
   *
   * @throws RefusedMedia and what the decoder throws
   */
  async get(n: number): Promise<VideoSample> {
    this.colours ??= this.firstColours();
    const colours = await this.colours;
    const picture = this.plan.at(n);
    this.pool.prefetch(this.ahead(n, picture), true);
    const single = singleLeaf(picture);
    const samples = await PictureSamples.of(this.pool, picture, 'exact');
    try {
      const sample = single && samples.get(single);
      if (single && sample && this.fits(sample)) {
        // What was exposed is pixels of the screen's colours already.
        if (sample.format === 'RGBA' && 'parts' in single && !this.seenThrough(single)) {
          await sample.copyTo(this.exposed);
          return await this.inFileColours(this.exposed, colours);
        }
        if (sample.format !== 'RGBA' && inColours(sample.colorSpace, colours)) return sample.clone();
      }
      const pixels = await pixelsOf(this.sheets, picture, samples.get);
      drawPicture(this.context, picture, this.job.program, pixels.get);
      pixels.close();
      return await this.drawn(colours);
    } finally {
      samples.close();
    }
  }

  private drawn(colours: FileColours): Promise<VideoSample> {
    const { width, height } = this.job;
    return this.inFileColours(this.context.getImageData(0, 0, width, height).data, colours);
  }

  private async inFileColours(data: Uint8ClampedArray, { init, planes }: FileColours): Promise<VideoSample> {
    const { width, height } = this.job;
    // Drawing turned them into the screen's.
    if (init.primaries === 'bt470bg') toPrimariesOf625(data);
    this.maker ??= new PlaneMaker(width, height, planes);
    return new VideoSample(await this.maker.of(data), {
      ...{ format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0 },
      colorSpace: init,
    });
  }

  // Those of the first picture there is, which black before it has to be in too.
  private async firstColours(): Promise<FileColours> {
    for (let n = 0; n < this.plan.count; n++) {
      const [seen] = framesOf(this.plan.at(n));
      if (!seen) continue;
      const sample = await (await this.pool.get(seen.sourceId)).exact.get(seen.frame);
      const { colorSpace } = sample;
      sample.close();
      return fileColours(colorSpace);
    }
    return fileColours(undefined);
  }

  private seenThrough(leaf: SeenLeaf): boolean {
    return this.job.program.sizes[leafFrames(leaf)[0]!.sourceId]?.alpha ?? false;
  }

  private fits({ displayWidth, displayHeight, visibleRect, rotation, format }: VideoSample): boolean {
    const { width, height } = this.job;
    // Pixels that are not square are drawn: what is encoded as it is keeps as many as it was stored with.
    const square = visibleRect.width === displayWidth && visibleRect.height === displayHeight;
    const eightBit = !/P1[02]$/.test(format ?? '');
    return displayWidth === width && displayHeight === height && square && rotation === 0 && eightBit;
  }

  /** The next different source frames, by the lanes they are taken from. */
  private ahead(n: number, now: SeenPicture): Map<string, number[]> {
    const pictures: LaneFrame[][] = [];
    let frames = 0;
    const add = (picture: SeenPicture): void => {
      // A long exposure sees to its own frames.
      const lanes = lanesOf(picture).slice(0, LOOK_AHEAD);
      frames += Math.max(1, lanes.length);
      pictures.push(lanes);
    };
    add(now);
    let last = now;
    for (let next = n + 1; next < this.plan.count && next < n + PICTURES_AHEAD && frames < LOOK_AHEAD; next++) {
      const picture = this.plan.at(next);
      if (!samePicture(picture, last)) add(picture);
      last = picture;
    }
    return framesByLane(pictures);
  }
}
