import { lightSheet, plainSum, type LightSheet, type Mixing } from '@hastig/core';
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

/** A picture that is put together with others, made when it is its turn; whoever has it made closes it. */
interface Addend extends Pick<Part, 'weight' | 'gain'> {
  get(): Promise<VideoSample>;
}

/**
 * The mean of frames of one source, in linear light: in planes where its frames are, else as it is shown, upright, its pixels
 * square. The frames pass one by one, so that a long exposure needs no more memory than a short one.
 *
 * @param parts in the order in which they pass
 * @param get gives each of them; they are closed here
 * @returns the caller closes it
 * @throws what the decoder throws
 */
export const meanOf = (
  makers: MakerPool,
  frames: SourceFrames,
  parts: readonly Part[],
  get: Get,
): Promise<VideoSample> =>
  mixOf(
    makers,
    parts.map((part, at) => ({
      ...part,
      get: () => {
        announce(frames, parts, at);
        return get(part);
      },
    })),
    plainSum,
  );

/** Pictures of one source put together in one way; as means are. */
export async function mixOf(makers: MakerPool, addends: readonly Addend[], mixing: Mixing): Promise<VideoSample> {
  const planar = (): Promise<VideoSample | 'lost' | undefined> =>
    makers.with((makes) => planarMix(makes, makers.number(), addends, mixing));
  let made = await planar();
  // A graphics processor is taken away now and then; it is not used any more after that.
  if (made === 'lost') made = await planar();
  if (made === 'lost') throw new Error('The device let go of a picture that was made. Render again.');
  return made ?? shownMix(addends, mixing);
}

function announce(frames: SourceFrames, parts: readonly Part[], at: number): void {
  const ahead = parts.slice(at, at + AHEAD).filter(({ key }) => !key);
  frames.prefetch(
    ahead.map(({ frame }) => frame),
    1,
    true,
  );
}

/** Weights that miss 1 by less than this are 1 all together. */
const LITTLE = 1e-6;

/** @returns undefined where the frames are not of one kind that stays in planes; `lost` where the device let go of them */
async function planarMix(
  makes: Makes,
  mix: number,
  addends: readonly Addend[],
  mixing: Mixing,
): Promise<VideoSample | 'lost' | undefined> {
  const added: Promise<boolean>[] = [];
  try {
    for (const { get, weight, gain = 1 } of addends) {
      const sample = await get();
      const done = makes.add(mix, parcelOf(sample), { weight, gain, mixing });
      sample.close();
      // Looked at below; until then it may fail unheard.
      done.catch(() => undefined);
      added.push(done);
      if (added.length > ON_THEIR_WAY && !(await added.shift())) return undefined;
    }
    if (!(await Promise.all(added)).every(Boolean)) return undefined;
    const all = addends.reduce((sum, { weight }) => sum + weight, 0);
    const made = await makes.mean(mix, mixing.combine === 'sum' && Math.abs(all - 1) > LITTLE);
    return made ? sampleOf(made) : 'lost';
  } finally {
    makes.dropMean(mix).catch(() => undefined);
  }
}

/** Frames of any kind put together, as they are shown. Frames of stills may be of several sizes; the first says which. */
async function shownMix(addends: readonly Addend[], mixing: Mixing): Promise<VideoSample> {
  let sheet: Sheet | undefined;
  const weights = addends.map(({ weight }) => weight);
  for (const addend of addends) {
    const sample = await addend.get();
    try {
      sheet ??= new Sheet(sample.displayWidth, sample.displayHeight, mixing, weights);
      await sheet.add(sample, addend);
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
  private readonly mean: LightSheet;
  private context: OffscreenCanvasRenderingContext2D | undefined;

  constructor(
    private readonly width: number,
    private readonly height: number,
    mixing: Mixing,
    weights: readonly number[],
  ) {
    this.data = new Uint8ClampedArray(4 * width * height);
    this.mean = lightSheet(width * height, mixing, weights);
  }

  async add(sample: VideoSample, { weight, gain }: Addend): Promise<void> {
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
