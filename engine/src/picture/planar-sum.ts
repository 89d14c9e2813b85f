import type { Mixing } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { lightSum, type LightSum } from './light-sum';
import { copyPlanes, isPlanar } from './planar';
import { planeSpace } from './plane-space';

type Like = Pick<VideoSample, 'squarePixelWidth' | 'squarePixelHeight' | 'colorSpace' | 'rotation' | 'visibleRect'>;

/** Adds up frames as most decoders give them, which stay in planes and in their own colours. */
export class PlanarSum {
  private constructor(
    private readonly sum: LightSum,
    private readonly like: Like,
  ) {}

  /** @returns undefined where frames are of another kind than the first one's */
  static async for(first: VideoSample, mixing: Mixing): Promise<PlanarSum | undefined> {
    const { squarePixelWidth, squarePixelHeight, colorSpace, rotation, visibleRect } = first;
    const space = isPlanar(first) ? planeSpace(colorSpace) : undefined;
    if (!space) return undefined;
    const sum = await lightSum(visibleRect.width, visibleRect.height, space, mixing);
    return new PlanarSum(sum, { squarePixelWidth, squarePixelHeight, colorSpace, rotation, visibleRect });
  }

  get rotation(): VideoSample['rotation'] {
    return this.like.rotation;
  }

  /** @returns whether it could be added to the others */
  async add(sample: VideoSample, weight: number, gain: number): Promise<boolean> {
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
    this.sum.add(weight, gain);
    return true;
  }

  /** Has all be made of what was added: it does not count 1 all together. */
  sumAll(): void {
    this.sum.sumAll();
  }

  /** The mean of what was added; nothing is added after. Undefined where the device let go of it. */
  frame(): VideoFrame | undefined {
    const { visibleRect, squarePixelWidth: displayWidth, squarePixelHeight: displayHeight, colorSpace } = this.like;
    const data = this.sum.mean();
    if (!data) return undefined;
    return new VideoFrame(data as Uint8Array<ArrayBuffer>, {
      ...{ format: 'I420', codedWidth: visibleRect.width, codedHeight: visibleRect.height, timestamp: 0 },
      ...{ displayWidth, displayHeight, colorSpace: colorSpace.toJSON() },
    });
  }

  close(): void {
    this.sum.close();
  }
}
