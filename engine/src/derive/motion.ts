import { MOTION_PIECE_FRAMES } from '@hastig/contract';
import { MOTION_EDGE, motionBytes, MotionMaker } from '@hastig/core';
import { RefusedMedia } from '@hastig/probe';
import type { FileLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';
import type { Maker } from './job';

/** Frames decoded ahead of what is looked at, and bytes of decoded pictures kept: the way goes straight on. */
const LOOK_AHEAD = 12;
const BUDGET = 72 * 2 ** 20;

/** Makes a moving picture's motion, from its own frames drawn small. */
export async function motionMaker({ location }: { location: FileLocation }): Promise<Maker> {
  // The file's own frames, however they are counted.
  const source = await openSource({ ...location, counting: { by: 'frame' } }, new PictureBudget(BUDGET));
  const { exact } = source;
  const { video } = source.facts;
  if (!video) {
    await source.close();
    throw new RefusedMedia('Only moving pictures have motion.');
  }
  const scale = MOTION_EDGE / Math.max(video.width, video.height);
  const [width, height] = [video.width, video.height].map((pixels) => Math.max(2, Math.round(pixels * scale)));
  const context = new OffscreenCanvas(width!, height!).getContext('2d', { willReadFrequently: true })!;
  const grey = async (frame: number, end: number): Promise<Uint8Array> => {
    const ahead = Math.min(end, frame + LOOK_AHEAD) - frame;
    exact.prefetch(
      Array.from({ length: ahead }, (_, i) => frame + i),
      1,
    );
    const sample = await exact.get(frame);
    sample.draw(context, 0, 0, width!, height!);
    sample.close();
    return brightness(context.getImageData(0, 0, width!, height!).data);
  };
  return {
    total: exact.frames,
    perPiece: MOTION_PIECE_FRAMES,
    make: async ({ start, end }, onDone, signal) => {
      const maker = new MotionMaker(width!, height!);
      // A piece in the middle sees the frame before it first.
      const before = start > 0 ? 1 : 0;
      for (let frame = start - before; frame < end; frame++) {
        signal.throwIfAborted();
        maker.push(await grey(frame, end));
        onDone(frame - start + 1);
      }
      const { energy, change, right, down } = maker.motion();
      const part = (row: Float32Array): Float32Array => row.subarray(before);
      return motionBytes({ energy: part(energy), change: part(change), right: part(right), down: part(down) }).buffer;
    },
    close: () => source.close(),
  };
}

/** Luma of pixels as ITU-R BT.709 weighs them. */
function brightness(pixels: Uint8ClampedArray): Uint8Array {
  const grey = new Uint8Array(pixels.length / 4);
  for (let i = 0; i < grey.length; i++) {
    grey[i] = 0.2126 * pixels[4 * i]! + 0.7152 * pixels[4 * i + 1]! + 0.0722 * pixels[4 * i + 2]! + 0.5;
  }
  return grey;
}
