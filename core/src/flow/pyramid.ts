// Looked up once: the loops below run for every pixel.
const { min } = Math;

/** A plane of a picture, its brightness or a colour difference: a byte each, row by row, no gaps. */
export interface Plane {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Pixels that the smaller side of the smallest level has at least. */
const SMALLEST = 12;

/** A picture half as wide and high, each value the mean of four; an odd last row or column is left out. */
function halved({ width, height, data }: Plane): Plane {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint8Array(w * h);
  for (let y = 0, n = 0; y < h; y++) {
    for (let x = 0, at = 2 * y * width; x < w; x++, n++, at += 2) {
      out[n] = (data[at]! + data[at + 1]! + data[at + width]! + data[at + width + 1]! + 2) >> 2;
    }
  }
  return { width: w, height: h, data: out };
}

/** How many levels a picture of a size has, itself among them. */
function levelCount(width: number, height: number): number {
  let levels = 1;
  for (let side = min(width, height) >> 1; side >= SMALLEST; side >>= 1) levels++;
  return levels;
}

/** A picture, and the same smaller and smaller, by halves. */
export function pyramidOf(picture: Plane): Plane[] {
  const levels = [picture];
  for (let n = levelCount(picture.width, picture.height) - 1; n > 0; n--) levels.push(halved(levels.at(-1)!));
  return levels;
}
