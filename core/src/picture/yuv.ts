/** How luma and colour differences are made of red, green and blue, and the range their numbers use. */
export interface YuvSpace {
  /** ITU-R BT.709 or BT.601 (which SMPTE 170M and BT.470 B/G share). */
  matrix: 'bt709' | 'bt601';
  /** All of 0…255; else luma 16…235 and colour differences 16…240. */
  fullRange: boolean;
}

/** Shares of red and blue in luma: ITU-R BT.709-6, item 3.2; ITU-R BT.601-7, 2.5.1. */
const shares = { bt709: { red: 0.2126, blue: 0.0722 }, bt601: { red: 0.299, blue: 0.114 } } as const;

/** Fractional bits of the coefficients: with them no product leaves what integers hold exactly. */
const BITS = 14;
const ONE = 1 << BITS;
const HALF = ONE >> 1;

/** Bytes of a picture in planes of full luma and colour differences at half the size each way. */
export const i420Bytes = (width: number, height: number): number => (width * height * 3) / 2;

/**
 * Makes the planes of a 4:2:0 picture (Y, Cb, Cr, one behind the other) from red, green and blue. A colour difference is
 * that of the mean of its four pixels.
 *
 * @param rgba four bytes a pixel, without gaps, beginning at a whole word; the fourth is not looked at
 * @param width even, as is `height`
 * @param out at least `i420Bytes(width, height)` bytes
 */
export function rgbaToI420(
  rgba: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  { matrix, fullRange }: YuvSpace,
  out: Uint8Array | Uint8ClampedArray,
): void {
  if (width % 2 || height % 2)
    throw new RangeError(`a 4:2:0 picture needs an even width and height, not ${width}×${height}`);
  const { red, blue } = shares[matrix];
  const green = 1 - red - blue;
  const [base, luma, chroma] = fullRange ? [0, 1, 1] : [16, 219 / 255, 224 / 255];
  const fixed = (value: number): number => Math.round(value * ONE);
  const [yr, yg, yb] = [fixed(red * luma), fixed(green * luma), fixed(blue * luma)] as const;
  const toCb = chroma / (2 * (1 - blue));
  const toCr = chroma / (2 * (1 - red));
  // A quarter of each, for they are taken of the sum of four pixels. Grey must come out grey: they add up to nothing.
  const [ur, ug] = [fixed((-red * toCb) / 4), fixed((-green * toCb) / 4)] as const;
  const [vg, vb] = [fixed((-green * toCr) / 4), fixed((-blue * toCr) / 4)] as const;
  const [ub, vr] = [-ur - ug, -vg - vb] as const;
  const yBase = base * ONE + HALF;
  const cBase = 128 * ONE + HALF;
  const [cb, cr] = [width * height, (width * height * 5) / 4];
  // Four bytes at once, and the four pixels one after the other: a loop over them takes three times as long.
  const pixels = new Uint32Array(rgba.buffer, rgba.byteOffset, width * height);
  let place = 0;
  for (let y = 0; y < height; y += 2) {
    const end = (y + 1) * width;
    for (let upper = y * width; upper < end; upper += 2) {
      const lower = upper + width;
      let pixel = pixels[upper]!;
      let r = pixel & 255;
      let g = (pixel >>> 8) & 255;
      let b = (pixel >>> 16) & 255;
      out[upper] = (yr * r + yg * g + yb * b + yBase) >> BITS;
      let reds = r;
      let greens = g;
      let blues = b;
      pixel = pixels[upper + 1]!;
      r = pixel & 255;
      g = (pixel >>> 8) & 255;
      b = (pixel >>> 16) & 255;
      out[upper + 1] = (yr * r + yg * g + yb * b + yBase) >> BITS;
      reds += r;
      greens += g;
      blues += b;
      pixel = pixels[lower]!;
      r = pixel & 255;
      g = (pixel >>> 8) & 255;
      b = (pixel >>> 16) & 255;
      out[lower] = (yr * r + yg * g + yb * b + yBase) >> BITS;
      reds += r;
      greens += g;
      blues += b;
      pixel = pixels[lower + 1]!;
      r = pixel & 255;
      g = (pixel >>> 8) & 255;
      b = (pixel >>> 16) & 255;
      out[lower + 1] = (yr * r + yg * g + yb * b + yBase) >> BITS;
      reds += r;
      greens += g;
      blues += b;
      const u = (ur * reds + ug * greens + ub * blues + cBase) >> BITS;
      const v = (vr * reds + vg * greens + vb * blues + cBase) >> BITS;
      // Full blue and red of full range come half a step past the last number.
      out[cb + place] = u > 255 ? 255 : u;
      out[cr + place] = v > 255 ? 255 : v;
      place++;
    }
  }
}
