import { BITS } from './shares';

/** Pixels of a part of a row that is looked at as a whole. */
export const PART: i32 = 16;
const HALF: i32 = 1 << (BITS - 1);

/** A whole number of a list. */
@inline
export function numberOf(numbers: usize, index: i32): i32 {
  return load<i32>(numbers + (<usize>index << 2));
}

/** Eight values of 32 bits, as bytes from 0 to 255. */
@inline
function storeEight(at: usize, low: v128, high: v128): void {
  const words = i16x8.narrow_i32x4_s(i32x4.shr_s(low, BITS), i32x4.shr_s(high, BITS));
  v128.store64_lane(at, i8x16.narrow_i16x8_u(words, words), 0);
}

/**
 * Turns a part of a row of planes to red, green and blue, one after the other; what lies past its end is of no account.
 *
 * @param numbers six of them, as `fromPlanes` in `core/src/picture/yuv.ts` has them
 */
export function toColours(luma: usize, cbs: usize, crs: usize, numbers: usize, row: usize): void {
  const black = i16x8.splat(<i16>numberOf(numbers, 0));
  const grey = i16x8.splat(128);
  const half = i32x4.splat(HALF);
  const lumas = i32x4.splat(numberOf(numbers, 1));
  const redCr = i32x4.splat(numberOf(numbers, 2));
  const greenCr = i32x4.splat(numberOf(numbers, 3));
  const greenCb = i32x4.splat(numberOf(numbers, 4));
  const blueCb = i32x4.splat(numberOf(numbers, 5));
  for (let at: usize = 0; at < <usize>PART; at += 8) {
    const values = i16x8.sub(v128.load_ext<u8>(luma + at), black);
    const brightLow = i32x4.add(i32x4.mul(i32x4.extend_low_i16x8_s(values), lumas), half);
    const brightHigh = i32x4.add(i32x4.mul(i32x4.extend_high_i16x8_s(values), lumas), half);
    // Four colour differences, each for two pixels.
    const cb = i32x4.extend_low_i16x8_s(i16x8.sub(v128.load_ext<u8>(cbs + (at >> 1)), grey));
    const cr = i32x4.extend_low_i16x8_s(i16x8.sub(v128.load_ext<u8>(crs + (at >> 1)), grey));
    const toRed = i32x4.mul(cr, redCr);
    const toGreen = i32x4.add(i32x4.mul(cr, greenCr), i32x4.mul(cb, greenCb));
    const toBlue = i32x4.mul(cb, blueCb);
    const out = row + at;
    storeEight(
      out,
      i32x4.add(brightLow, v128.shuffle<i32>(toRed, toRed, 0, 0, 1, 1)),
      i32x4.add(brightHigh, v128.shuffle<i32>(toRed, toRed, 2, 2, 3, 3)),
    );
    storeEight(
      out + PART,
      i32x4.sub(brightLow, v128.shuffle<i32>(toGreen, toGreen, 0, 0, 1, 1)),
      i32x4.sub(brightHigh, v128.shuffle<i32>(toGreen, toGreen, 2, 2, 3, 3)),
    );
    storeEight(
      out + 2 * PART,
      i32x4.add(brightLow, v128.shuffle<i32>(toBlue, toBlue, 0, 0, 1, 1)),
      i32x4.add(brightHigh, v128.shuffle<i32>(toBlue, toBlue, 2, 2, 3, 3)),
    );
  }
}

/** Where a table of 32 bits has what one of four bytes stands for. */
@inline
export function lightOf(table: usize, four: u32, shift: u32): usize {
  return table + (<usize>((four >>> shift) & 255) << 2);
}
