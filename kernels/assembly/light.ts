import { releaseAll, take } from './memory';

/** What `core/src/exposure/planar-mean.ts` and `core/src/picture/yuv.ts` do, with the numbers of those files. */
const BITS: i32 = 14;
const HALF: i32 = 1 << (BITS - 1);
const FULL: i32 = 1 << 30;
const DARK: i32 = 1 << 22;
const BRIGHT_SHIFT: i32 = 14;
const DARK_SHIFT: i32 = 6;

let width: i32 = 0;
let height: i32 = 0;
let picture: usize = 0;
let sums: usize = 0;
let row: usize = 0;
let weighed: usize = 0;
let numbers: usize = 0;
let bright: usize = 0;
let dark: usize = 0;

const planarBytes = (w: i32, h: i32): usize => <usize>(w * h + 2 * ((w + 1) >> 1) * ((h + 1) >> 1));

/** Makes room for a mean of pictures of a size; what was in this memory before is let go of. */
export function openMean(w: i32, h: i32): void {
  releaseAll();
  width = w;
  height = h;
  picture = take(planarBytes(w, h));
  const pixels = <usize>(w * h);
  sums = take(12 * pixels);
  memory.fill(sums, 0, 12 * pixels);
  // Rows are turned sixteen pixels at a time, also past their end.
  row = take(3 * (<usize>w + 32));
  weighed = take(256 * 4);
  numbers = take(32 * 4);
  bright = take((FULL >>> BRIGHT_SHIFT) + 1);
  dark = take((DARK >>> DARK_SHIFT) + 1);
}

/** Where a picture's planes are written before it is added, and read once the mean is made. */
export function meanAt(): usize {
  return picture;
}
/** Where what each value adds is written (256 whole numbers). */
export function weighedAt(): usize {
  return weighed;
}
/** Where six numbers `fromPlanes` and eleven `toPlanes` are written. */
export function numbersAt(): usize {
  return numbers;
}
/** Where the values are written that sums stand for. */
export function brightAt(): usize {
  return bright;
}
export function darkAt(): usize {
  return dark;
}

@inline
function numberOf(index: i32): i32 {
  return load<i32>(numbers + (<usize>index << 2));
}

@inline
function splatOf(index: i32): v128 {
  return i32x4.splat(numberOf(index));
}

/** Eight values of 32 bits, as bytes from 0 to 255. */
@inline
function storeEight(at: usize, low: v128, high: v128): void {
  const words = i16x8.narrow_i32x4_s(i32x4.shr_s(low, BITS), i32x4.shr_s(high, BITS));
  v128.store64_lane(at, i8x16.narrow_i16x8_u(words, words), 0);
}

/** Turns a row of planes to red, green and blue; what lies past its end is of no account. */
function turnRow(y: i32): void {
  const across = (width + 1) >> 1;
  const pixels = width * height;
  const luma = picture + <usize>(y * width);
  const cbs = picture + <usize>(pixels + (y >> 1) * across);
  const crs = cbs + <usize>(across * ((height + 1) >> 1));
  const room = <usize>width + 32;
  const black = i16x8.splat(<i16>numberOf(0));
  const grey = i16x8.splat(128);
  const half = i32x4.splat(HALF);
  const lumas = splatOf(1);
  const redCr = splatOf(2);
  const greenCr = splatOf(3);
  const greenCb = splatOf(4);
  const blueCb = splatOf(5);
  for (let x = 0; x < width; x += 8) {
    const at = <usize>x;
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
      out + room,
      i32x4.sub(brightLow, v128.shuffle<i32>(toGreen, toGreen, 0, 0, 1, 1)),
      i32x4.sub(brightHigh, v128.shuffle<i32>(toGreen, toGreen, 2, 2, 3, 3)),
    );
    storeEight(
      out + 2 * room,
      i32x4.add(brightLow, v128.shuffle<i32>(toBlue, toBlue, 0, 0, 1, 1)),
      i32x4.add(brightHigh, v128.shuffle<i32>(toBlue, toBlue, 2, 2, 3, 3)),
    );
  }
}

@inline
function addOne(sum: usize, value: usize): void {
  store<i32>(sum, load<i32>(sum) + load<i32>(weighed + (<usize>load<u8>(value) << 2)));
}

/** Adds the picture that was written, in light. */
export function addToMean(): void {
  const room = <usize>width + 32;
  const pixels = <usize>(width * height);
  for (let y = 0; y < height; y++) {
    turnRow(y);
    for (let plane: usize = 0; plane < 3; plane++) {
      let value = row + plane * room;
      let sum = sums + ((plane * pixels + <usize>(y * width)) << 2);
      const end = value + <usize>width;
      const fours = value + <usize>(width & ~3);
      for (; value < fours; value += 4, sum += 16) {
        addOne(sum, value);
        addOne(sum + 4, value + 1);
        addOne(sum + 8, value + 2);
        addOne(sum + 12, value + 3);
      }
      for (; value < end; value++, sum += 4) addOne(sum, value);
    }
  }
}

@inline
function valueAt(sum: usize): i32 {
  const light = load<i32>(sum);
  return light < DARK
    ? <i32>load<u8>(dark + <usize>(light >>> DARK_SHIFT))
    : <i32>load<u8>(bright + <usize>(min(light, FULL) >>> BRIGHT_SHIFT));
}

/** Writes the mean's planes to where pictures were written. */
export function makeMean(): void {
  const across = (width + 1) >> 1;
  const pixels = width * height;
  const plane = <usize>pixels << 2;
  const cbs = picture + <usize>pixels;
  const crs = cbs + <usize>(across * ((height + 1) >> 1));
  const yr = numberOf(6);
  const yg = numberOf(7);
  const yb = numberOf(8);
  const ur = numberOf(9);
  const ug = numberOf(10);
  const ub = numberOf(11);
  const vr = numberOf(12);
  const vg = numberOf(13);
  const vb = numberOf(14);
  const yBase = numberOf(15);
  const cBase = numberOf(16);
  for (let top = 0; top < height; top += 2) {
    for (let left = 0; left < width; left += 2) {
      let red = 0;
      let green = 0;
      let blue = 0;
      for (let corner = 0; corner < 4; corner++) {
        const pixel = min(top + (corner >> 1), height - 1) * width + min(left + (corner & 1), width - 1);
        const sum = sums + (<usize>pixel << 2);
        const r = valueAt(sum);
        const g = valueAt(sum + plane);
        const b = valueAt(sum + 2 * plane);
        store<u8>(picture + <usize>pixel, <u8>((yr * r + yg * g + yb * b + yBase) >> BITS));
        red += r;
        green += g;
        blue += b;
      }
      const place = <usize>((top >> 1) * across + (left >> 1));
      store<u8>(cbs + place, <u8>min(255, (ur * red + ug * green + ub * blue + cBase) >> BITS));
      store<u8>(crs + place, <u8>min(255, (vr * red + vg * green + vb * blue + cBase) >> BITS));
    }
  }
}
