import { LightMean } from '@hastig/core';
import { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import type { Makes } from './makers/maker';
import type { MakerPool } from './makers/maker-pool';
import { parcelOf, sampleOf } from './makers/parcel';
import { copyRgba, givesRgba } from './rgba';

/** Frames that are asked for ahead of the one that is added. */
const AHEAD = 8;
/** Pictures that are on their way to be added while the next one is decoded. */
const ON_THEIR_WAY = 4;

/** Where a picture of a source is: at a frame, or on its way from there to the next one. */
export interface Place {
  frame: number;
  /** How far on its way, more than 0 and less than 1; at the frame itself where it is not told. */
  share?: number;
  /** The nearest frame that is coded by itself stands for it. */
  key?: true;
}

/** A picture of a source and how much it counts; all together 1. */
export interface Part extends Place {
  weight: number;
  /** By which its light is more than it was. */
  gain?: number;
}

type Get = (place: Place) => Promise<VideoSample>;

/**
 * The mean of frames of one source, in linear light: in planes where its frames are, else as it is shown, upright, its pixels
 * square. The frames pass one by one, so that a long exposure needs no more memory than a short one.
 *
 * @param parts in the order in which they pass
 * @param get gives each of them; they are closed here
 * @returns the caller closes it
 * @throws what the decoder throws
 */
export async function meanOf(
  makers: MakerPool,
  frames: SourceFrames,
  parts: readonly Part[],
  get: Get,
): Promise<VideoSample> {
  const planar = (): Promise<VideoSample | 'lost' | undefined> =>
    makers.with((makes) => planarMean(makes, makers.number(), frames, parts, get));
  let made = await planar();
  // A graphics processor is taken away now and then; it is not used any more after that.
  if (made === 'lost') made = await planar();
  if (made === 'lost') throw new Error('The device let go of a picture that was made. Render again.');
  return made ?? shownMean(frames, parts, get);
}

function announce(frames: SourceFrames, parts: readonly Part[], at: number): void {
  const ahead = parts.slice(at, at + AHEAD).filter(({ key }) => !key);
  frames.prefetch(
    ahead.map(({ frame }) => frame),
    1,
    true,
  );
}

/** @returns undefined where the frames are not of one kind that stays in planes; `lost` where the device let go of them */
async function planarMean(
  makes: Makes,
  mean: number,
  frames: SourceFrames,
  parts: readonly Part[],
  get: Get,
): Promise<VideoSample | 'lost' | undefined> {
  const added: Promise<boolean>[] = [];
  try {
    for (const [at, part] of parts.entries()) {
      announce(frames, parts, at);
      const sample = await get(part);
      const done = makes.add(mean, parcelOf(sample), part.weight, part.gain ?? 1);
      sample.close();
      // Looked at below; until then it may fail unheard.
      done.catch(() => undefined);
      added.push(done);
      if (added.length > ON_THEIR_WAY && !(await added.shift())) return undefined;
    }
    if (!(await Promise.all(added)).every(Boolean)) return undefined;
    const made = await makes.mean(mean);
    return made ? sampleOf(made) : 'lost';
  } finally {
    makes.dropMean(mean).catch(() => undefined);
  }
}

/** The mean of frames of any kind, as they are shown. Frames of stills may be of several sizes; the first says which. */
async function shownMean(frames: SourceFrames, parts: readonly Part[], get: Get): Promise<VideoSample> {
  let sheet: Sheet | undefined;
  for (const [at, part] of parts.entries()) {
    announce(frames, parts, at);
    const sample = await get(part);
    try {
      sheet ??= new Sheet(sample.displayWidth, sample.displayHeight);
      await sheet.add(sample, part);
    } finally {
      sample.close();
    }
  }
  if (!sheet) throw new RangeError('an exposure has one frame at least');
  return sheet.picture();
}

/** Where frames are added up. */
class Sheet {
  private readonly data: Uint8ClampedArray<ArrayBuffer>;
  private readonly mean: LightMean;
  private context: OffscreenCanvasRenderingContext2D | undefined;

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.data = new Uint8ClampedArray(4 * width * height);
    this.mean = new LightMean(width * height);
  }

  async add(sample: VideoSample, { weight, gain }: Part): Promise<void> {
    const { width, height, mean } = this;
    const { rotation, visibleRect } = sample;
    const asShown = rotation === 0 && visibleRect.width === width && visibleRect.height === height;
    if (asShown && givesRgba(sample)) {
      await copyRgba(sample, this.data);
      return mean.add(this.data, weight, true, gain);
    }
    this.context ??= new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    this.context.clearRect(0, 0, width, height);
    sample.draw(this.context, 0, 0, width, height);
    mean.add(this.context.getImageData(0, 0, width, height).data, weight, false, gain);
  }

  picture(): VideoSample {
    const { data, width, height } = this;
    this.mean.write(data);
    return new VideoSample(data, { format: 'RGBA', codedWidth: width, codedHeight: height, timestamp: 0 });
  }
}
