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
export const YUV_BITS = 14;
const BITS = YUV_BITS;
const ONE = 1 << BITS;
const HALF = ONE >> 1;

/** Bytes of a picture in planes of full luma and colour differences at half the size each way. */
export const i420Bytes = (width: number, height: number): number => (width * height * 3) / 2;

/** Shares of red, green and blue in luma and in a quarter of each colour difference, in parts of `2 ** YUV_BITS`. */
interface ToPlanes {
  yr: number;
  yg: number;
  yb: number;
  ur: number;
  ug: number;
  ub: number;
  vr: number;
  vg: number;
  vb: number;
  /** What is added to luma and to colour differences, for rounding too. */
  yBase: number;
  cBase: number;
}

/** How planes are made of red, green and blue: of four pixels' sum where it is a colour difference. */
export function toPlanes({ matrix, fullRange }: YuvSpace): ToPlanes {
  const { red, blue } = shares[matrix];
  const green = 1 - red - blue;
  const [base, luma, chroma] = fullRange ? [0, 1, 1] : [16, 219 / 255, 224 / 255];
  const fixed = (value: number): number => Math.round(value * ONE);
  const toCb = chroma / (2 * (1 - blue));
  const toCr = chroma / (2 * (1 - red));
  // A quarter of each, for they are taken of the sum of four pixels. Grey must come out grey: they add up to nothing.
  const [ur, ug] = [fixed((-red * toCb) / 4), fixed((-green * toCb) / 4)] as const;
  const [vg, vb] = [fixed((-green * toCr) / 4), fixed((-blue * toCr) / 4)] as const;
  return {
    ...{ yr: fixed(red * luma), yg: fixed(green * luma), yb: fixed(blue * luma) },
    ...{ ur, ug, ub: -ur - ug },
    ...{ vr: -vg - vb, vg, vb },
    ...{ yBase: base * ONE + HALF, cBase: 128 * ONE + HALF },
  };
}

/** How red, green and blue are made of planes, in parts of `2 ** YUV_BITS`. */
interface FromPlanes {
  /** Luma of black. */
  black: number;
  luma: number;
  /** What Cr gives to red and takes from green, and what Cb takes from green and gives to blue. */
  redCr: number;
  greenCr: number;
  greenCb: number;
  blueCb: number;
}

/** The inverse of `toPlanes`, from the same shares. */
export function fromPlanes({ matrix, fullRange }: YuvSpace): FromPlanes {
  const { red, blue } = shares[matrix];
  const green = 1 - red - blue;
  const [black, luma, chroma] = fullRange ? [0, 1, 1] : [16, 255 / 219, 255 / 224];
  const fixed = (value: number): number => Math.round(value * ONE);
  return {
    ...{ black, luma: fixed(luma) },
    redCr: fixed(2 * (1 - red) * chroma),
    greenCr: fixed(((2 * (1 - red) * red) / green) * chroma),
    greenCb: fixed(((2 * (1 - blue) * blue) / green) * chroma),
    blueCb: fixed(2 * (1 - blue) * chroma),
  };
}

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
  const { yr, yg, yb, ur, ug, ub, vr, vg, vb, yBase, cBase } = toPlanes({ matrix, fullRange });
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
