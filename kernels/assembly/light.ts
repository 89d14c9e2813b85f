import { lightOf, numberOf, PART, toColours } from './colours';
import { releaseAll, take } from './memory';
import { pairs, storeFour, weighed as shared } from './shares';

/** What `core/src/exposure/planar-mean.ts` and `core/src/picture/yuv.ts` do, with the numbers of those files. */
const FULL: i32 = 1 << 30;
const DARK: i32 = 1 << 22;
const BRIGHT_SHIFT: i32 = 14;
const DARK_SHIFT: i32 = 6;

/** What `core/src/exposure/lightest.ts` has. */
const LIT_PLACES: i32 = 4096;
const PLACE_SHIFT: i32 = 3;
const PART_BITS: i32 = 7;
const HALF_PART: i16 = 64;

let width: i32 = 0;
let height: i32 = 0;
let stride: usize = 0;
let next: usize = 0;
let last: usize = 0;
let waiting: usize = 0;
let moved: usize = 0;
let made: usize = 0;
let sums: usize = 0;
let row: usize = 0;
let lights: usize = 0;
let numbers: usize = 0;
let bright: usize = 0;
let dark: usize = 0;
/** Of each colour the most light that any picture has is taken, in place of the sum: sums are values of 16 bits then. */
let lightest: bool = false;
/** Three tables of values whose light is changed, where that is so. */
let litAt: usize = 0;
let lit: bool = false;
/** Whether the lightest has a picture. */
let begun: bool = false;
/** By which each colour's light is more once it is put together, and what is added to it: red, green, blue. */
let times: v128 = f32x4.splat(1);
let plus: v128 = f32x4.splat(0);

const planarBytes = (w: i32, h: i32): usize => <usize>(w * h + 2 * ((w + 1) >> 1) * ((h + 1) >> 1));

/** Makes room for a mean of pictures of a size; what was in this memory before is let go of. */
export function openMean(w: i32, h: i32): void {
  releaseAll();
  lightest = false;
  lit = false;
  begun = false;
  times = f32x4.splat(1);
  plus = f32x4.splat(0);
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
  // Whether a part showed something else at any time.
  moved = take(all >> 2);
  memory.fill(moved, 0, all >> 2);
  const pixels = stride * <usize>(h + (h & 1));
  sums = take(12 * pixels);
  memory.fill(sums, 0, 12 * pixels);
  // A part of two rows: red, green and blue of each, and its planes.
  row = take(6 * PART + 16);
  made = take(3 * PART + 16);
  lights = take(256 * 4);
  numbers = take(32 * 4);
  bright = take((FULL >>> BRIGHT_SHIFT) + 1);
  dark = take((DARK >>> DARK_SHIFT) + 1);
  litAt = take(3 * LIT_PLACES);
}

/** Makes all of the mean of its sums, also what stands still: pictures count otherwise than all together 1. */
export function sumAll(): void {
  memory.fill(moved, 1, <usize>(((width + PART - 1) / PART) * ((height + 1) >> 1)));
}

/** Takes of each colour the most light that any picture has, weighed, in place of the sum. */
export function takeLightest(): void {
  lightest = true;
}

/** Changes the light of all together: times so much, plus so much, red, green and blue. */
export function changeLight(tr: f32, tg: f32, tb: f32, pr: f32, pg: f32, pb: f32): void {
  times = f32x4(tr, tg, tb, 1);
  plus = f32x4(pr, pg, pb, 0);
}

/** Where three tables are written of what becomes of the lightest values, red, green and blue; from then on they are used. */
export function litValuesAt(): usize {
  lit = true;
  return litAt;
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
function splatOf(index: i32): v128 {
  return i32x4.splat(numberOf(numbers, index));
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
    toColours(last + <usize>(y * width) + part, cbs, crs, numbers, row);
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

/** What was written is the last picture now, and the next is written where the one before lay. */
function passOn(): void {
  const free = last;
  last = next;
  next = free;
}

@inline
function differ(at: usize): v128 {
  return v128.xor(v128.load(next + at), v128.load(last + at));
}

@inline
function halfDiffer(at: usize): v128 {
  return v128.xor(v128.load64_zero(next + at), v128.load64_zero(last + at));
}

/** Whether a part of two rows shows another picture than the one before: where its brightness and both its colours are. */
@inline
function partDiffers(luma: usize, below: usize, cb: usize, toCr: usize): bool {
  const lumas = v128.or(differ(luma), differ(luma + below));
  return v128.any_true(v128.or(lumas, v128.or(halfDiffer(cb), halfDiffer(cb + toCr))));
}

/** Takes the most of what is there and what the picture that was written shows in a part of two rows. */
function mostOfPart(upper: i32, part: usize, weight: i16): void {
  const across = (width + 1) >> 1;
  const pixels = width * height;
  const cbs = next + <usize>(pixels + (upper >> 1) * across) + (part >> 1);
  const crs = cbs + <usize>(across * ((height + 1) >> 1));
  const plane = (stride * <usize>(height + (height & 1))) << 1;
  const weights = i16x8.splat(weight);
  for (let y = upper; y < min(upper + 2, height); y++) {
    toColours(next + <usize>(y * width) + part, cbs, crs, numbers, row);
    let most = sums + ((<usize>y * stride + part) << 1);
    let value = row;
    for (let colour = 0; colour < 3; colour++, most += plane) {
      for (let x: usize = 0; x < <usize>PART; x += 8, value += 8) {
        const at = most + (x << 1);
        const weighed = i16x8.q15mulr_sat_s(i16x8.shl(v128.load_ext<u8>(value), PART_BITS), weights);
        v128.store(at, i16x8.max_s(v128.load(at), weighed));
      }
    }
  }
}

/** The most of what is there and the picture that was written, weighed (15 bits, of values, not of light). */
export function addToLightest(weight: i32): void {
  const across = (width + 1) >> 1;
  const pixels = <usize>(width * height);
  const toCr = <usize>(across * ((height + 1) >> 1));
  let move = moved;
  for (let y = 0; y < height; y += 2) {
    const luma = <usize>(y * width);
    const below: usize = y + 1 < height ? <usize>width : 0;
    const chroma = pixels + <usize>((y >> 1) * across);
    for (let part: usize = 0; part < <usize>width; part += PART, move++) {
      mostOfPart(y, part, <i16>weight);
      const differs = partDiffers(luma + part, below, chroma + (part >> 1), toCr);
      // What was there before the first one was nothing.
      if (begun && differs) store<u8>(move, 1);
    }
  }
  begun = true;
  passOn();
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
  let move = moved;
  for (let y = 0; y < height; y += 2) {
    const luma = <usize>(y * width);
    const below: usize = y + 1 < height ? <usize>width : 0;
    const chroma = pixels + <usize>((y >> 1) * across);
    for (let part: usize = 0; part < <usize>width; part += PART, wait += 4, move++) {
      const differs = partDiffers(luma + part, below, chroma + (part >> 1), toCr);
      const waits = load<f32>(wait);
      if (differs) {
        if (waits > 0) {
          addPart(y, part, waits);
          store<u8>(move, 1);
        }
        store<f32>(wait, weight);
      } else store<f32>(wait, waits + weight);
    }
  }
  passOn();
}

@inline
function colourOf(three: v128, colour: usize): f32 {
  if (colour == 0) return f32x4.extract_lane(three, 0);
  return colour == 1 ? f32x4.extract_lane(three, 1) : f32x4.extract_lane(three, 2);
}

/** Four sums' places among the values they stand for. */
@inline
function placesOf(sum: usize, brightValues: v128, darkValues: v128, more: v128, extra: v128): v128 {
  const lit = f32x4.add(f32x4.mul(v128.load(sum), more), extra);
  const light = i32x4.min_s(
    i32x4.trunc_sat_f32x4_s(f32x4.mul(lit, f32x4.splat(<f32>FULL))),
    i32x4.splat(FULL),
  );
  return v128.bitselect(
    i32x4.add(i32x4.shr_u(light, DARK_SHIFT), darkValues),
    i32x4.add(i32x4.shr_u(light, BRIGHT_SHIFT), brightValues),
    i32x4.lt_s(light, i32x4.splat(DARK)),
  );
}

/** Turns a part of a row of sums to the values they stand for. */
@inline
function valuesOf(sum: usize, to: usize, brightValues: v128, darkValues: v128, more: v128, extra: v128): void {
  for (let x: usize = 0; x < <usize>PART; x += 4) {
    const places = placesOf(sum + (x << 2), brightValues, darkValues, more, extra);
    const four =
      <u32>load<u8>(<usize>i32x4.extract_lane(places, 0)) |
      (<u32>load<u8>(<usize>i32x4.extract_lane(places, 1)) << 8) |
      (<u32>load<u8>(<usize>i32x4.extract_lane(places, 2)) << 16) |
      (<u32>load<u8>(<usize>i32x4.extract_lane(places, 3)) << 24);
    store<u32>(to + x, four);
  }
}

/** Turns a part of a row of the most to the values it stands for. */
@inline
function lightestOf(most: usize, to: usize, colour: usize): void {
  if (!lit) {
    const half = i16x8.splat(HALF_PART);
    const low = i16x8.shr_s(i16x8.add_sat_s(v128.load(most), half), PART_BITS);
    const high = i16x8.shr_s(i16x8.add_sat_s(v128.load(most + 16), half), PART_BITS);
    v128.store(to, i8x16.narrow_i16x8_u(low, high));
    return;
  }
  const table = litAt + colour * LIT_PLACES;
  for (let x: usize = 0; x < <usize>PART; x++)
    store<u8>(to + x, load<u8>(table + ((load<u16>(most + (x << 1)) + (1 << (PLACE_SHIFT - 1))) >> PLACE_SHIFT)));
}

@inline
function fourOf(at: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at)));
}

/** Makes the planes of a part of two rows: of its sums, or of what all pictures show there. */
function makePart(upper: i32, part: usize, brightValues: v128, darkValues: v128): void {
  const each: usize = lightest ? 1 : 2;
  const plane = (stride * <usize>(height + (height & 1))) << each;
  const lower = 3 * <usize>PART;
  for (let below: usize = 0; below < 2; below++) {
    // At an odd edge the last row stands for the one that is not there.
    const y = min(upper + <i32>below, height - 1);
    for (let colour: usize = 0; colour < 3; colour++) {
      const sum = sums + colour * plane + ((<usize>y * stride + part) << each);
      const values = row + below * lower + colour * <usize>PART;
      if (lightest) {
        lightestOf(sum, values, colour);
        continue;
      }
      const more = f32x4.splat(colourOf(times, colour));
      const extra = f32x4.splat(colourOf(plus, colour));
      valuesOf(sum, values, brightValues, darkValues, more, extra);
    }
  }
  const odd = (width & 1) != 0 && part + <usize>PART > <usize>width;
  if (odd) {
    // And the last column.
    const end = row + <usize>width - part;
    for (let line: usize = 0; line < 6; line++) store<u8>(end + line * <usize>PART, load<u8>(end + line * <usize>PART - 1));
  }
  for (let below: usize = 0; below < 2; below++) {
    const from = row + below * lower;
    for (let x: usize = 0; x < <usize>PART; x += 4) {
      storeFour(
        made + below * <usize>PART + x,
        shared(
          fourOf(from + x),
          fourOf(from + PART + x),
          fourOf(from + 2 * PART + x),
          splatOf(6),
          splatOf(7),
          splatOf(8),
          splatOf(15),
        ),
      );
    }
  }
  for (let x: usize = 0; x < <usize>PART >> 1; x += 4) {
    const at = row + 2 * x;
    const red = pairsAt(at, lower);
    const green = pairsAt(at + PART, lower);
    const blue = pairsAt(at + 2 * PART, lower);
    const out = made + 2 * <usize>PART + x;
    storeFour(out, shared(red, green, blue, splatOf(9), splatOf(10), splatOf(11), splatOf(16)));
    storeFour(out + (PART >> 1), shared(red, green, blue, splatOf(12), splatOf(13), splatOf(14), splatOf(16)));
  }
}

/** Writes the mean's planes to where pictures were written. */
export function makeMean(): void {
  const across = <usize>((width + 1) >> 1);
  const pixels = <usize>(width * height);
  const toCr = across * <usize>((height + 1) >> 1);
  const brightValues = i32x4.splat(<i32>bright);
  const darkValues = i32x4.splat(<i32>dark);
  // What stood still all the time is there already.
  memory.copy(next, last, planarBytes(width, height));
  let wait = waiting;
  let move = moved;
  for (let y = 0; y < height; y += 2) {
    const luma = next + <usize>(y * width);
    const cbs = next + pixels + <usize>(y >> 1) * across;
    for (let part: usize = 0; part < <usize>width; part += PART, wait += 4, move++) {
      if (load<u8>(move) == 0) continue;
      if (!lightest) addPart(y, part, load<f32>(wait));
      makePart(y, part, brightValues, darkValues);
      const cb = cbs + (part >> 1);
      if (part + <usize>PART <= <usize>width) {
        v128.store(luma + part, v128.load(made));
        if (y + 1 < height) v128.store(luma + <usize>width + part, v128.load(made + PART));
        const colours = v128.load(made + 2 * PART);
        v128.store64_lane(cb, colours, 0);
        v128.store64_lane(cb + toCr, colours, 1);
        continue;
      }
      const wide = <usize>width - part;
      const half = (wide + 1) >> 1;
      memory.copy(luma + part, made, wide);
      if (y + 1 < height) memory.copy(luma + <usize>width + part, made + PART, wide);
      memory.copy(cb, made + 2 * PART, half);
      memory.copy(cb + toCr, made + 2 * PART + (PART >> 1), half);
    }
  }
}

/** Four sums of two columns and two rows each. */
@inline
function pairsAt(at: usize, lower: usize): v128 {
  return pairs(i32x4.add(fourOf(at), fourOf(at + lower)), i32x4.add(fourOf(at + 4), fourOf(at + lower + 4)));
}
