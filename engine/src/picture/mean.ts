import { LightMean } from '@hastig/core';
import { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import { lightSum, type LightSum } from './light-sum';
import { planeSpace } from './plane-space';
import { copyPlanes, isPlanar } from './planar';
import { copyRgba, givesRgba } from './rgba';

/** Frames that are asked for ahead of the one that is added. */
const AHEAD = 4;

/** Where a picture of a source is: at a frame, or on its way from there to the next one. */
export interface Place {
  frame: number;
  /** How far on its way, more than 0 and less than 1; at the frame itself where it is not told. */
  share?: number;
}

/** A picture of a source and how much it counts; all together 1. */
interface Part extends Place {
  weight: number;
}

/**
 * The mean of frames of one source, in linear light, as it is shown: in planes where its frames are, else
 * upright, its pixels square. The frames pass one by one, so that a
 * long exposure needs no more memory than a short one.
 *
 * @param parts in the order in which they pass
 * @param get gives each of them; they are closed here
 * @returns the caller closes it
 * @throws what the decoder throws
 */
export async function meanOf(
  frames: SourceFrames,
  parts: readonly Part[],
  get: (place: Place) => Promise<VideoSample>,
): Promise<VideoSample> {
  const made = await sumOf(frames, parts, get, PlanarSheet.for);
  return made ?? (await sumOf(frames, parts, get, (first) => Promise.resolve(new Sheet(first))))!;
}

/** Where frames are added up. */
interface Sum {
  /** @returns whether it could be added to the others */
  add(sample: VideoSample, weight: number): Promise<boolean>;
  picture(): VideoSample;
  close(): void;
}

/** @returns undefined where the frames are not of a kind that can be added up there */
async function sumOf(
  frames: SourceFrames,
  parts: readonly Part[],
  get: (place: Place) => Promise<VideoSample>,
  begin: (first: VideoSample) => Promise<Sum | undefined>,
): Promise<VideoSample | undefined> {
  let sum: Sum | undefined;
  try {
    for (const [at, { frame, share, weight }] of parts.entries()) {
      frames.prefetch(
        parts.slice(at, at + AHEAD).map((part) => part.frame),
        1,
        true,
      );
      const sample = await get({ frame, ...(share !== undefined && { share }) });
      try {
        sum ??= await begin(sample);
        if (!sum || !(await sum.add(sample, weight))) return undefined;
      } finally {
        sample.close();
      }
    }
    if (!sum) throw new RangeError('an exposure has one frame at least');
    return sum.picture();
  } finally {
    sum?.close();
  }
}

/** Frames as most decoders give them, which stay in planes and in their own colours. */
class PlanarSheet implements Sum {
  private constructor(
    private readonly sum: LightSum,
    private readonly like: Pick<
      VideoSample,
      'displayWidth' | 'displayHeight' | 'colorSpace' | 'rotation' | 'visibleRect'
    >,
  ) {}

  static readonly for = async (first: VideoSample): Promise<Sum | undefined> => {
    const { displayWidth, displayHeight, colorSpace, rotation, visibleRect } = first;
    const space = isPlanar(first) ? planeSpace(colorSpace) : undefined;
    if (!space) return undefined;
    const sum = await lightSum(visibleRect.width, visibleRect.height, space);
    return new PlanarSheet(sum, { displayWidth, displayHeight, colorSpace, rotation, visibleRect });
  };

  async add(sample: VideoSample, weight: number): Promise<boolean> {
    const { like } = this;
    const { width, height } = like.visibleRect;
    const alike =
      isPlanar(sample) &&
      sample.visibleRect.width === width &&
      sample.visibleRect.height === height &&
      sample.rotation === like.rotation &&
      sample.colorSpace.matrix === like.colorSpace.matrix &&
      sample.colorSpace.fullRange === like.colorSpace.fullRange;
    if (!alike) return false;
    await copyPlanes(sample, this.sum.room());
    this.sum.add(weight);
    return true;
  }

  picture(): VideoSample {
    const { visibleRect, ...like } = this.like;
    const { width: codedWidth, height: codedHeight } = visibleRect;
    return new VideoSample(this.sum.mean(), { format: 'I420', codedWidth, codedHeight, timestamp: 0, ...like });
  }

  close(): void {
    this.sum.close();
  }
}

/** Frames of any kind, as they are shown. Frames of stills may be of several sizes; the first says which. */
class Sheet implements Sum {
  private readonly width: number;
  private readonly height: number;
  private readonly data: Uint8ClampedArray<ArrayBuffer>;
  private readonly mean: LightMean;
  private context: OffscreenCanvasRenderingContext2D | undefined;

  constructor({ displayWidth: width, displayHeight: height }: VideoSample) {
    this.width = width;
    this.height = height;
    this.data = new Uint8ClampedArray(4 * width * height);
    this.mean = new LightMean(width * height);
  }

  async add(sample: VideoSample, weight: number): Promise<boolean> {
    const { width, height, mean } = this;
    const { rotation, visibleRect } = sample;
    const asShown = rotation === 0 && visibleRect.width === width && visibleRect.height === height;
    if (asShown && givesRgba(sample)) {
      await copyRgba(sample, this.data);
      mean.add(this.data, weight, true);
      return true;
    }
    this.context ??= new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    this.context.clearRect(0, 0, width, height);
    sample.draw(this.context, 0, 0, width, height);
    mean.add(this.context.getImageData(0, 0, width, height).data, weight);
    return true;
  }

  close(): void {
    // Nothing is kept.
  }

  picture(): VideoSample {
    const { data, width, height } = this;
    this.mean.write(data);
    return new VideoSample(data, { format: 'RGBA', codedWidth: width, codedHeight: height, timestamp: 0 });
  }
}
