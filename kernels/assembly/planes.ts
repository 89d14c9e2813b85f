import { releaseAll, take } from './memory';
import { BITS, pairs, storeFour, weighed } from './shares';

/** What `rgbaToI420` of `core/src/picture/yuv.ts` does, number for number. */

let width: i32 = 0;
let height: i32 = 0;
let pixels: usize = 0;
let planes: usize = 0;
let numbers: usize = 0;

/** Makes room for a picture of an even size, in pixels and in planes; what was in this memory before is let go of. */
export function openPlanes(w: i32, h: i32): void {
  releaseAll();
  width = w;
  height = h;
  pixels = take(<usize>(4 * w * h));
  planes = take(<usize>((w * h * 3) / 2));
  numbers = take(16 * 4);
}

/** Where the pixels are written (red, green, blue, opacity), and the planes are read. */
export function pixelsAt(): usize {
  return pixels;
}
export function planesAt(): usize {
  return planes;
}
/** Where eleven numbers `toPlanes` are written. */
export function shares(): usize {
  return numbers;
}

@inline
function numberOf(index: i32): i32 {
  return load<i32>(numbers + (<usize>index << 2));
}

@inline
function redOf(four: v128): v128 {
  return v128.and(four, i32x4.splat(255));
}
@inline
function greenOf(four: v128): v128 {
  return v128.and(i32x4.shr_u(four, 8), i32x4.splat(255));
}
@inline
function blueOf(four: v128): v128 {
  return v128.and(i32x4.shr_u(four, 16), i32x4.splat(255));
}

/** Four pixels of a block of two rows and two columns by themselves: what is left of a row at its end. */
function block(at: usize, luma: usize, cb: usize, cr: usize): void {
  let red = 0;
  let green = 0;
  let blue = 0;
  for (let corner = 0; corner < 4; corner++) {
    const pixel = <usize>((corner >> 1) * width + (corner & 1));
    const r = <i32>load<u8>(at + (pixel << 2));
    const g = <i32>load<u8>(at + (pixel << 2) + 1);
    const b = <i32>load<u8>(at + (pixel << 2) + 2);
    store<u8>(luma + pixel, <u8>((numberOf(0) * r + numberOf(1) * g + numberOf(2) * b + numberOf(9)) >> BITS));
    red += r;
    green += g;
    blue += b;
  }
  const u = (numberOf(3) * red + numberOf(4) * green + numberOf(5) * blue + numberOf(10)) >> BITS;
  const v = (numberOf(6) * red + numberOf(7) * green + numberOf(8) * blue + numberOf(10)) >> BITS;
  store<u8>(cb, <u8>min(255, u));
  store<u8>(cr, <u8>min(255, v));
}

/** Makes the planes of the pixels that were written. */
export function makePlanes(): void {
  const yr = i32x4.splat(numberOf(0));
  const yg = i32x4.splat(numberOf(1));
  const yb = i32x4.splat(numberOf(2));
  const ur = i32x4.splat(numberOf(3));
  const ug = i32x4.splat(numberOf(4));
  const ub = i32x4.splat(numberOf(5));
  const vr = i32x4.splat(numberOf(6));
  const vg = i32x4.splat(numberOf(7));
  const vb = i32x4.splat(numberOf(8));
  const yBase = i32x4.splat(numberOf(9));
  const cBase = i32x4.splat(numberOf(10));
  const stride = <usize>(4 * width);
  const eights = width & ~7;
  for (let y = 0; y < height; y += 2) {
    const upper = pixels + <usize>y * stride;
    const luma = planes + <usize>(y * width);
    const cb = planes + <usize>(width * height + (y >> 1) * (width >> 1));
    const cr = cb + <usize>((width * height) >> 2);
    for (let x = 0; x < eights; x += 8) {
      const at = upper + (<usize>x << 2);
      const a = v128.load(at);
      const b = v128.load(at + 16);
      const c = v128.load(at + stride);
      const d = v128.load(at + stride + 16);
      const out = luma + <usize>x;
      storeFour(out, weighed(redOf(a), greenOf(a), blueOf(a), yr, yg, yb, yBase));
      storeFour(out + 4, weighed(redOf(b), greenOf(b), blueOf(b), yr, yg, yb, yBase));
      storeFour(out + <usize>width, weighed(redOf(c), greenOf(c), blueOf(c), yr, yg, yb, yBase));
      storeFour(out + <usize>width + 4, weighed(redOf(d), greenOf(d), blueOf(d), yr, yg, yb, yBase));
      const red = pairs(i32x4.add(redOf(a), redOf(c)), i32x4.add(redOf(b), redOf(d)));
      const green = pairs(i32x4.add(greenOf(a), greenOf(c)), i32x4.add(greenOf(b), greenOf(d)));
      const blue = pairs(i32x4.add(blueOf(a), blueOf(c)), i32x4.add(blueOf(b), blueOf(d)));
      const half = <usize>(x >> 1);
      storeFour(cb + half, weighed(red, green, blue, ur, ug, ub, cBase));
      storeFour(cr + half, weighed(red, green, blue, vr, vg, vb, cBase));
    }
    for (let x = eights; x < width; x += 2) {
      const half = <usize>(x >> 1);
      block(upper + (<usize>x << 2), luma + <usize>x, cb + half, cr + half);
    }
  }
}
