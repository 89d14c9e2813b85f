/** Fractional bits of the shares of red, green and blue, as in `core/src/picture/yuv.ts`. */
export const BITS: i32 = 14;

/** Four sums of shares of red, green and blue. */
@inline
export function weighed(r: v128, g: v128, b: v128, red: v128, green: v128, blue: v128, base: v128): v128 {
  const sum = i32x4.add(i32x4.add(i32x4.mul(r, red), i32x4.mul(g, green)), i32x4.add(i32x4.mul(b, blue), base));
  return i32x4.shr_s(sum, BITS);
}

/** The sums of two neighbours each, of eight values. */
@inline
export function pairs(low: v128, high: v128): v128 {
  return i32x4.add(v128.shuffle<i32>(low, high, 0, 2, 4, 6), v128.shuffle<i32>(low, high, 1, 3, 5, 7));
}

/** Four values as bytes from 0 to 255. */
@inline
export function storeFour(at: usize, values: v128): void {
  const words = i16x8.narrow_i32x4_s(values, values);
  v128.store32_lane(at, i8x16.narrow_i16x8_u(words, words), 0);
}
