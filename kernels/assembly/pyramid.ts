import { take } from './memory';

/** Pixels that the smaller side of the smallest level has at least. */
const SMALLEST: i32 = 12;
const MOST_LEVELS: i32 = 16;

/** A picture's brightness, a byte a pixel, and the same smaller and smaller, by halves. */
export class Pyramid {
  count: i32 = 0;
  data: StaticArray<usize> = new StaticArray<usize>(MOST_LEVELS);
  width: StaticArray<i32> = new StaticArray<i32>(MOST_LEVELS);
  height: StaticArray<i32> = new StaticArray<i32>(MOST_LEVELS);
}

/** How many levels a picture of a size has, itself among them. */
export function levelCount(width: i32, height: i32): i32 {
  let levels = 1;
  for (let side = min(width, height) >> 1; side >= SMALLEST; side >>= 1) levels++;
  return levels;
}

function halve(from: usize, width: i32, to: usize, w: i32, h: i32): void {
  for (let y = 0; y < h; y++) {
    let upper = from + <usize>(2 * y * width);
    let lower = upper + <usize>width;
    let out = to + <usize>(y * w);
    for (let x = 0; x < w; x++) {
      const sum =
        <u32>load<u8>(upper) + <u32>load<u8>(upper, 1) + <u32>load<u8>(lower) + <u32>load<u8>(lower, 1);
      store<u8>(out, <u8>((sum + 2) >> 2));
      upper += 2;
      lower += 2;
      out++;
    }
  }
}

export function fillPyramid(pyramid: Pyramid, data: usize, width: i32, height: i32): void {
  pyramid.count = levelCount(width, height);
  pyramid.data[0] = data;
  pyramid.width[0] = width;
  pyramid.height[0] = height;
  for (let level = 1; level < pyramid.count; level++) {
    const w = pyramid.width[level - 1] >> 1;
    const h = pyramid.height[level - 1] >> 1;
    const to = take(<usize>(w * h));
    halve(pyramid.data[level - 1], pyramid.width[level - 1], to, w, h);
    pyramid.data[level] = to;
    pyramid.width[level] = w;
    pyramid.height[level] = h;
  }
}
