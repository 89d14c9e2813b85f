import { LightMean } from '@hastig/core';
import { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';

/** Frames that are asked for ahead of the one that is added. */
const AHEAD = 4;

/** A frame of a source and how much it counts; all together 1. */
interface Part {
  frame: number;
  weight: number;
}

/**
 * The mean of frames of one source, in linear light, as it is shown: upright, its pixels square. The frames pass one by one, so that a
 * long exposure needs no more memory than a short one.
 *
 * @param parts in the order in which they pass
 * @returns the caller closes it
 * @throws what the decoder throws
 */
export async function meanOf(frames: SourceFrames, parts: readonly Part[], signal?: AbortSignal): Promise<VideoSample> {
  let sheet: { context: OffscreenCanvasRenderingContext2D; mean: LightMean } | undefined;
  for (const [at, { frame, weight }] of parts.entries()) {
    frames.prefetch(
      parts.slice(at, at + AHEAD).map((part) => part.frame),
      1,
      true,
    );
    const sample = await frames.get(frame, signal);
    try {
      const { displayWidth: width, displayHeight: height } = sample;
      sheet ??= sheetOf(width, height);
      const { context, mean } = sheet;
      // Frames of stills may be of several sizes; the first says which.
      const { width: wide, height: high } = context.canvas;
      context.clearRect(0, 0, wide, high);
      sample.draw(context, 0, 0, wide, high);
      mean.add(context.getImageData(0, 0, wide, high).data, weight);
    } finally {
      sample.close();
    }
  }
  if (!sheet) throw new RangeError('an exposure has one frame at least');
  const { width, height } = sheet.context.canvas;
  const data = new Uint8ClampedArray(4 * width * height);
  sheet.mean.write(data);
  return new VideoSample(data, { format: 'RGBA', codedWidth: width, codedHeight: height, timestamp: 0 });
}

function sheetOf(width: number, height: number): { context: OffscreenCanvasRenderingContext2D; mean: LightMean } {
  const canvas = new OffscreenCanvas(width, height);
  return { context: canvas.getContext('2d', { willReadFrequently: true })!, mean: new LightMean(width * height) };
}
