import { planarBytes, type PlanarPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';

/** Whether a frame is stored in planes of 4:2:0, eight bits a value. */
export const isPlanar = ({ format }: VideoSample): boolean => format === 'I420' || format === 'NV12';

/** Writes a frame's planes (Y, Cb, Cr) one behind the other, without gaps, to where there is room for them. */
export async function copyPlanes(sample: VideoSample, into: Uint8Array): Promise<void> {
  const { width, height } = sample.visibleRect;
  const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
  const [luma, chroma] = [width * height, across * down];
  if (sample.format === 'I420') {
    await sample.copyTo(into, {
      layout: [
        { offset: 0, stride: width },
        { offset: luma, stride: across },
        { offset: luma + chroma, stride: across },
      ],
    });
    return;
  }
  const bytes = new Uint8Array(sample.allocationSize());
  const [lumas, pairs] = await sample.copyTo(bytes);
  for (let row = 0; row < height; row++) {
    const from = lumas!.offset + row * lumas!.stride;
    into.set(bytes.subarray(from, from + width), row * width);
  }
  for (let row = 0, to = luma; row < down; row++) {
    const from = pairs!.offset + row * pairs!.stride;
    for (let column = 0; column < across; column++, to++) {
      into[to] = bytes[from + 2 * column]!;
      into[to + chroma] = bytes[from + 2 * column + 1]!;
    }
  }
}

/** A frame's planes; undefined where they are of another kind than 4:2:0 in eight bits. */
export async function planarOf(sample: VideoSample): Promise<PlanarPicture | undefined> {
  if (!isPlanar(sample)) return undefined;
  const { width, height } = sample.visibleRect;
  const data = new Uint8Array(planarBytes(width, height));
  await copyPlanes(sample, data);
  return { width, height, data };
}
