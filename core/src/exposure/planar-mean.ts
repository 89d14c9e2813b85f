import { planarBytes, type PlanarPicture } from '../flow';
import { fromPlanes, toPlanes, YUV_BITS, type YuvSpace } from '../picture';
import { FULL, lightsOf, valueOfSum } from './light';
import { LIT_PLACES, litPlace, litValues, valueOfParts, valueWeight, weighedValue } from './lightest';
import { plainSum, type Mixing } from './lit';

const HALF = 1 << (YUV_BITS - 1);
/** Pixels of a part of two rows that is looked at as a whole. */
const PART = 16;
const clamped = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value);

/**
 * Adds pictures in planes up in linear light, and gives their mean in planes, with the same matrix and range. The twin of
 * `kernels/assembly/light.ts`, which adds in another order.
 */
export class PlanarMean {
  private readonly sums: [Float32Array, Float32Array, Float32Array];
  private first: Uint8Array | undefined;
  /** Parts of two rows that did not show the same all the time. */
  private readonly moved = new Set<number>();
  /** Whether light counts otherwise than all together 1, so that what stands still changes too. */
  private scaled: boolean;

  /** @param mixing a sum, or the lightest; what lies over something else counts by its part of the sum */
  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly space: YuvSpace,
    private readonly mixing: Mixing = plainSum,
  ) {
    this.scaled = !!mixing.lit;
    const pixels = width * height;
    this.sums = [new Float32Array(pixels), new Float32Array(pixels), new Float32Array(pixels)];
  }

  /**
   * @param data planes of Y, Cb, Cr, one behind the other, without gaps
   * @param weight of all pictures together 1; otherwise `sumAll` is called
   * @param gain by which its light is more than it was
   */
  add(data: Uint8Array, weight: number, gain = 1): void {
    if (gain !== 1) this.sumAll();
    const { width, height, sums } = this;
    this.first ??= data.slice();
    this.look(data, this.first);
    const [reds, greens, blues] = sums;
    const { black, luma, redCr, greenCr, greenCb, blueCb } = fromPlanes(this.space);
    const lightest = this.mixing.combine === 'lightest';
    const counts = valueWeight(weight);
    const weighed = lightsOf.map((light, value) => (lightest ? weighedValue(value, counts) : light * weight * gain));
    const put = (sum: Float32Array, pixel: number, light: number): void => {
      sum[pixel] = lightest ? Math.max(sum[pixel]!, light) : sum[pixel]! + light;
    };
    const across = (width + 1) >> 1;
    const [cbs, crs] = [width * height, width * height + across * ((height + 1) >> 1)];
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const [pixel, place] = [y * width + x, (y >> 1) * across + (x >> 1)];
        const bright = (data[pixel]! - black) * luma + HALF;
        const [cb, cr] = [data[cbs + place]! - 128, data[crs + place]! - 128];
        put(reds, pixel, weighed[clamped((bright + cr * redCr) >> YUV_BITS)]!);
        put(greens, pixel, weighed[clamped((bright - cr * greenCr - cb * greenCb) >> YUV_BITS)]!);
        put(blues, pixel, weighed[clamped((bright + cb * blueCb) >> YUV_BITS)]!);
      }
    }
  }

  /** Makes all of the picture of its sums, also what stands still. */
  sumAll(): void {
    this.scaled = true;
  }

  private look(data: Uint8Array, first: Uint8Array): void {
    const { width, height, moved } = this;
    const across = (width + 1) >> 1;
    const chroma = across * ((height + 1) >> 1);
    data.forEach((value, n) => {
      if (value === first[n]) return;
      const place = (n - width * height) % chroma;
      const [x, y] =
        n < width * height
          ? [n % width, Math.floor(n / width)]
          : [2 * (place % across), 2 * Math.floor(place / across)];
      moved.add(this.partAt(x, y));
    });
  }

  private partAt(x: number, y: number): number {
    return (y >> 1) * Math.ceil(this.width / PART) + Math.floor(x / PART);
  }

  /** What comes of what was added; what showed the same all the time stays as it is. */
  picture(): PlanarPicture {
    const { width, height, sums } = this;
    const numbers = toPlanes(this.space);
    const { yr, yg, yb, ur, ug, ub, vr, vg, vb, yBase, cBase } = numbers;
    const data = this.first?.slice() ?? new Uint8Array(planarBytes(width, height));
    const { lit } = this.mixing;
    const tables = lit && this.mixing.combine === 'lightest' ? litValues(lit) : undefined;
    const valueAt = (colour: 0 | 1 | 2, pixel: number): number => {
      const parts = sums[colour][pixel]!;
      if (tables) return tables[colour * LIT_PLACES + litPlace(parts)]!;
      if (this.mixing.combine === 'lightest') return valueOfParts(parts);
      const light = sums[colour][pixel]! * (lit?.times[colour] ?? 1) + (lit?.plus[colour] ?? 0);
      return valueOfSum(Math.min(FULL, Math.trunc(light * FULL)));
    };
    const across = (width + 1) >> 1;
    const [cbs, crs] = [width * height, width * height + across * ((height + 1) >> 1)];
    for (let top = 0; top < height; top += 2) {
      for (let left = 0; left < width; left += 2) {
        if (!this.scaled && !this.moved.has(this.partAt(left, top))) continue;
        let [red, green, blue] = [0, 0, 0];
        for (const [y, x] of [
          [top, left],
          [top, left + 1],
          [top + 1, left],
          [top + 1, left + 1],
        ] as const) {
          // At an odd edge the last pixel stands for the one that is not there.
          const pixel = Math.min(y, height - 1) * width + Math.min(x, width - 1);
          const [r, g, b] = [valueAt(0, pixel), valueAt(1, pixel), valueAt(2, pixel)];
          data[pixel] = (yr * r + yg * g + yb * b + yBase) >> YUV_BITS;
          red += r;
          green += g;
          blue += b;
        }
        const place = (top >> 1) * across + (left >> 1);
        data[cbs + place] = Math.min(255, (ur * red + ug * green + ub * blue + cBase) >> YUV_BITS);
        data[crs + place] = Math.min(255, (vr * red + vg * green + vb * blue + cBase) >> YUV_BITS);
      }
    }
    return { width, height, data };
  }
}
