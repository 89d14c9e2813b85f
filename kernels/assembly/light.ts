import { releaseAll, take } from './memory';
import { BITS, pairs, storeFour, weighed as shared } from './shares';

/** What `core/src/exposure/planar-mean.ts` and `core/src/picture/yuv.ts` do, with the numbers of those files. */
const HALF: i32 = 1 << (BITS - 1);
const FULL: i32 = 1 << 30;
const DARK: i32 = 1 << 22;
const BRIGHT_SHIFT: i32 = 14;
const DARK_SHIFT: i32 = 6;

/** Pixels of a part of a row that is looked at as a whole. */
const PART: i32 = 16;

let width: i32 = 0;
let height: i32 = 0;
let stride: usize = 0;
let next: usize = 0;
let last: usize = 0;
let waiting: usize = 0;
let sums: usize = 0;
let row: usize = 0;
let lights: usize = 0;
let numbers: usize = 0;
let bright: usize = 0;
let dark: usize = 0;

const planarBytes = (w: i32, h: i32): usize => <usize>(w * h + 2 * ((w + 1) >> 1) * ((h + 1) >> 1));

/** Makes room for a mean of pictures of a size; what was in this memory before is let go of. */
export function openMean(w: i32, h: i32): void {
  releaseAll();
  width = w;
  height = h;
  const parts = (w + PART - 1) / PART;
  stride = <usize>(parts * PART);
  next = take(planarBytes(w, h));
  last = take(planarBytes(w, h));
  // How much the last picture counts, part by part, that was not added yet.
  const all = <usize>(parts * ((h + 1) >> 1)) << 2;
  waiting = take(all);
  memory.fill(waiting, 0, all);
  const pixels = stride * <usize>(h + (h & 1));
  sums = take(12 * pixels);
  memory.fill(sums, 0, 12 * pixels);
  // Two rows of red, green and blue.
  row = take(6 * (stride + 16));
  lights = take(256 * 4);
  numbers = take(32 * 4);
  bright = take((FULL >>> BRIGHT_SHIFT) + 1);
  dark = take((DARK >>> DARK_SHIFT) + 1);
}

/** Where a picture's planes are written before it is added, and read once the mean is made: another place after each. */
export function meanAt(): usize {
  return next;
}
/** Where the light of each value is written (256 floats). */
export function lightsAt(): usize {
  return lights;
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

/** Turns a part of a row of planes to red, green and blue; what lies past its end is of no account. */
function turn(luma: usize, cbs: usize, crs: usize): void {
  const black = i16x8.splat(<i16>numberOf(0));
  const grey = i16x8.splat(128);
  const half = i32x4.splat(HALF);
  const lumas = splatOf(1);
  const redCr = splatOf(2);
  const greenCr = splatOf(3);
  const greenCb = splatOf(4);
  const blueCb = splatOf(5);
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

@inline
function lightOf(table: usize, four: u32, shift: u32): usize {
  return table + (<usize>((four >>> shift) & 255) << 2);
}

/** Adds what the last picture shows in a part of two rows, by how much it counts. */
function addPart(upper: i32, part: usize, weight: f32): void {
  const across = (width + 1) >> 1;
  const pixels = width * height;
  const half = part >> 1;
  const cbs = last + <usize>(pixels + (upper >> 1) * across) + half;
  const crs = cbs + <usize>(across * ((height + 1) >> 1));
  const plane = (stride * <usize>(height + (height & 1))) << 2;
  const table = lights;
  const weights = f32x4.splat(weight);
  for (let y = upper; y < min(upper + 2, height); y++) {
    turn(last + <usize>(y * width) + part, cbs, crs);
    let sum = sums + ((<usize>y * stride + part) << 2);
    let value = row;
    for (let colour = 0; colour < 3; colour++, sum += plane) {
      for (let x: usize = 0; x < <usize>PART; x += 4, value += 4) {
        const four = load<u32>(value);
        let light = v128.load32_zero(lightOf(table, four, 0));
        light = v128.load32_lane(lightOf(table, four, 8), light, 1);
        light = v128.load32_lane(lightOf(table, four, 16), light, 2);
        light = v128.load32_lane(lightOf(table, four, 24), light, 3);
        const at = sum + (x << 2);
        v128.store(at, f32x4.add(v128.load(at), f32x4.mul(light, weights)));
      }
    }
  }
}

@inline
function differs(one: usize, other: usize): v128 {
  return v128.xor(v128.load(one), v128.load(other));
}

/**
 * Adds the picture that was written, in light. Where it shows what the one before it shows, to the byte, as most of a picture does
 * that a coder found to stand still, it only counts more.
 */
export function addToMean(weight: f32): void {
  const across = (width + 1) >> 1;
  const pixels = <usize>(width * height);
  const toCr = <usize>(across * ((height + 1) >> 1));
  let wait = waiting;
  for (let y = 0; y < height; y += 2) {
    const luma = <usize>(y * width);
    const below: usize = y + 1 < height ? <usize>width : 0;
    const chroma = pixels + <usize>((y >> 1) * across);
    for (let part: usize = 0; part < <usize>width; part += PART, wait += 4) {
      const one = next + luma + part;
      const other = last + luma + part;
      const cb = chroma + (part >> 1);
      const cr = cb + toCr;
      const lumas = v128.or(differs(one, other), differs(one + below, other + below));
      const colours = v128.or(
        v128.xor(v128.load64_zero(next + cb), v128.load64_zero(last + cb)),
        v128.xor(v128.load64_zero(next + cr), v128.load64_zero(last + cr)),
      );
      const waits = load<f32>(wait);
      if (v128.any_true(v128.or(lumas, colours))) {
        if (waits > 0) addPart(y, part, waits);
        store<f32>(wait, weight);
      } else store<f32>(wait, waits + weight);
    }
  }
  const free = last;
  last = next;
  next = free;
}

/** Adds all that was not added yet. */
function addWaiting(): void {
  let wait = waiting;
  for (let y = 0; y < height; y += 2) {
    for (let part: usize = 0; part < <usize>width; part += PART, wait += 4) {
      const waits = load<f32>(wait);
      if (waits > 0) addPart(y, part, waits);
      store<f32>(wait, 0);
    }
  }
}

/** Turns a row of sums to the values they stand for; past its end the last one is repeated. */
function valuesOf(sum: usize, to: usize, brightValues: usize, darkValues: usize): void {
  const end = to + <usize>width;
  for (; to < end; to++, sum += 4) {
    const light = <i32>(load<f32>(sum) * <f32>FULL);
    const value =
      light < DARK
        ? darkValues + <usize>(light >>> DARK_SHIFT)
        : brightValues + <usize>(min(light, FULL) >>> BRIGHT_SHIFT);
    store<u8>(to, load<u8>(value));
  }
  memory.fill(end, load<u8>(end - 1), 8);
}

@inline
function fourOf(at: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at)));
}

/** Writes the mean's planes to where pictures were written. */
export function makeMean(): void {
  addWaiting();
  const picture = next;
  const across = (width + 1) >> 1;
  const pixels = width * height;
  const plane = (stride * <usize>(height + (height & 1))) << 2;
  const room = stride + 16;
  const cbs = picture + <usize>pixels;
  const crs = cbs + <usize>(across * ((height + 1) >> 1));
  const lower = 3 * room;
  const yr = splatOf(6);
  const yg = splatOf(7);
  const yb = splatOf(8);
  const ur = splatOf(9);
  const ug = splatOf(10);
  const ub = splatOf(11);
  const vr = splatOf(12);
  const vg = splatOf(13);
  const vb = splatOf(14);
  const yBase = splatOf(15);
  const cBase = splatOf(16);
  for (let top = 0; top < height; top += 2) {
    // At an odd edge the last row stands for the one that is not there.
    for (let below = 0; below < 2; below++) {
      const y = min(top + below, height - 1);
      for (let colour: usize = 0; colour < 3; colour++) {
        const sum = sums + colour * plane + ((<usize>y * stride) << 2);
        valuesOf(sum, row + <usize>below * lower + colour * room, bright, dark);
      }
    }
    const luma = picture + <usize>(top * width);
    const cb = cbs + <usize>((top >> 1) * across);
    const cr = crs + <usize>((top >> 1) * across);
    // The lower row first: what is written past the end of a row is the beginning of the next one.
    for (let below = top + 1 < height ? 1 : 0; below >= 0; below--) {
      const from = row + <usize>below * lower;
      const out = luma + <usize>(below * width);
      for (let x: usize = 0; x < <usize>width; x += 4) {
        const values = shared(fourOf(from + x), fourOf(from + room + x), fourOf(from + 2 * room + x), yr, yg, yb, yBase);
        if (x + 4 <= <usize>width) storeFour(out + x, values);
        else for (let rest: usize = 0; x + rest < <usize>width; rest++) store<u8>(out + x + rest, <u8>laneOf(values, rest));
      }
    }
    for (let x: usize = 0; x < <usize>across; x += 4) {
      const at = row + 2 * x;
      const red = pairsAt(at, lower);
      const green = pairsAt(at + room, lower);
      const blue = pairsAt(at + 2 * room, lower);
      const u = shared(red, green, blue, ur, ug, ub, cBase);
      const v = shared(red, green, blue, vr, vg, vb, cBase);
      if (x + 4 <= <usize>across) {
        storeFour(cb + x, u);
        storeFour(cr + x, v);
      } else {
        for (let rest: usize = 0; x + rest < <usize>across; rest++) {
          store<u8>(cb + x + rest, <u8>min(255, laneOf(u, rest)));
          store<u8>(cr + x + rest, <u8>min(255, laneOf(v, rest)));
        }
      }
    }
  }
}

/** Four sums of two columns and two rows each. */
@inline
function pairsAt(at: usize, lower: usize): v128 {
  return pairs(i32x4.add(fourOf(at), fourOf(at + lower)), i32x4.add(fourOf(at + 4), fourOf(at + lower + 4)));
}

function laneOf(values: v128, lane: usize): i32 {
  if (lane == 0) return i32x4.extract_lane(values, 0);
  if (lane == 1) return i32x4.extract_lane(values, 1);
  return i32x4.extract_lane(values, 2);
}
