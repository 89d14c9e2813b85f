import { releaseAll, take } from './memory';

/** What `core/src/steady/warp.ts` does, with the numbers of that file. */
const PHASES: i32 = 64;
const SHIFT: i32 = 12;
const HALF: i32 = 1 << (SHIFT - 1);
const EVEN: i32 = 16;
const PARTS: f64 = 65536;
const PHASE_SHIFT: i32 = 10;
const MOST_STEP: i32 = 1 << 24;
const HALF_PHASE: i32 = 1 << (PHASE_SHIFT - 1);

let width: i32 = 0;
let height: i32 = 0;
let from: usize = 0;
let to: usize = 0;
let shares: usize = 0;
/** A row of what four rows come to, and the same where it is needed: shifted, and with what lies outside. */
let column: usize = 0;
let line: usize = 0;

/** Makes room for a picture of a size, as it is given and as it is made; what was in this memory before is let go of. */
export function openSteady(w: i32, h: i32): void {
  releaseAll();
  width = w;
  height = h;
  const bytes = <usize>(w * h + 2 * ((w + 1) >> 1) * ((h + 1) >> 1));
  from = take(bytes);
  to = take(bytes);
  shares = take(PHASES * 4 * 2);
  column = take(<usize>(2 * (w + 16)));
  line = take(<usize>(2 * (w + 16)));
}

/** Where the planes are written, and read once they are made. */
export function steadyFrom(): usize {
  return from;
}
export function steadyTo(): usize {
  return to;
}
/** Where is written how four pixels in a row count at each place between two (four whole numbers of 16 bits each). */
export function cubicAt(): usize {
  return shares;
}

function within(at: i32, length: i32, mirror: bool): i32 {
  if (at >= 0 && at < length) return at;
  if (!mirror) return at < 0 ? 0 : length - 1;
  const twice = ((at % (2 * length)) + 2 * length) % (2 * length);
  return twice < length ? twice : 2 * length - 1 - twice;
}

@inline
function byteOf(sum: i32): u8 {
  const value = (sum + HALF) >> SHIFT;
  return <u8>(value < 0 ? 0 : value > 255 ? 255 : value);
}

@inline
function shareOf(phase: i32, place: i32): i32 {
  return load<i16>(shares + (<usize>(4 * phase + place) << 1));
}

/** One pixel near an edge. */
function pixelNear(base: usize, w: i32, h: i32, ix: i32, iy: i32, tx: i32, ty: i32, mirror: bool): u8 {
  let sum = 0;
  for (let row = 0; row < 4; row++) {
    const start = from + base + <usize>(within(iy + row, h, mirror) * w);
    let part = 0;
    for (let place = 0; place < 4; place++)
      part += shareOf(tx, place) * <i32>load<u8>(start + <usize>within(ix + place, w, mirror));
    sum += shareOf(ty, row) * part;
  }
  return byteOf(sum);
}

@inline
function eightAt(at: usize): v128 {
  return v128.load_ext<u8>(at);
}

/** A plane that is only shifted: first rows, then columns, eight pixels at once. */
function shiftPlane(base: usize, w: i32, h: i32, e: f64, f: f64, mirror: bool): void {
  const px = <i32>floor<f64>(e * <f64>PHASES + 0.5);
  const py = <i32>floor<f64>(f * <f64>PHASES + 0.5);
  const ix = (px >> 6) - 1;
  const iy = (py >> 6) - 1;
  const tx = px & 63;
  const ty = py & 63;
  const above = i16x8.splat(<i16>shareOf(ty, 0));
  const upper = i16x8.splat(<i16>shareOf(ty, 1));
  const lower = i16x8.splat(<i16>shareOf(ty, 2));
  const below = i16x8.splat(<i16>shareOf(ty, 3));
  const s0 = i16x8.splat(<i16>shareOf(tx, 0));
  const s1 = i16x8.splat(<i16>shareOf(tx, 1));
  const s2 = i16x8.splat(<i16>shareOf(tx, 2));
  const s3 = i16x8.splat(<i16>shareOf(tx, 3));
  const half = i32x4.splat(HALF);
  // Places of a row that lie in the picture.
  const first = max(0, -ix);
  const last = min(w + 3, w - ix);
  for (let y = 0; y < h; y++) {
    const r0 = from + base + <usize>(within(iy + y, h, mirror) * w);
    const r1 = from + base + <usize>(within(iy + y + 1, h, mirror) * w);
    const r2 = from + base + <usize>(within(iy + y + 2, h, mirror) * w);
    const r3 = from + base + <usize>(within(iy + y + 3, h, mirror) * w);
    for (let x: usize = 0; x < <usize>w; x += 8) {
      let sum = i16x8.mul(eightAt(r0 + x), above);
      sum = i16x8.add(sum, i16x8.mul(eightAt(r1 + x), upper));
      sum = i16x8.add(sum, i16x8.mul(eightAt(r2 + x), lower));
      v128.store(column + (x << 1), i16x8.add(sum, i16x8.mul(eightAt(r3 + x), below)));
    }
    for (let x = 0; x < min(first, w + 3); x++)
      store<i16>(line + (<usize>x << 1), load<i16>(column + (<usize>within(ix + x, w, mirror) << 1)));
    if (last > first) memory.copy(line + (<usize>first << 1), column + (<usize>(ix + first) << 1), <usize>(last - first) << 1);
    for (let x = max(first, last); x < w + 3; x++)
      store<i16>(line + (<usize>x << 1), load<i16>(column + (<usize>within(ix + x, w, mirror) << 1)));
    const out = to + base + <usize>(y * w);
    let x = 0;
    for (; x + 8 <= w; x += 8) {
      const at = line + (<usize>x << 1);
      const a = v128.load(at);
      const b = v128.load(at + 2);
      const c = v128.load(at + 4);
      const d = v128.load(at + 6);
      let low = i32x4.add(i32x4.extmul_low_i16x8_s(a, s0), i32x4.extmul_low_i16x8_s(b, s1));
      low = i32x4.add(low, i32x4.add(i32x4.extmul_low_i16x8_s(c, s2), i32x4.extmul_low_i16x8_s(d, s3)));
      let high = i32x4.add(i32x4.extmul_high_i16x8_s(a, s0), i32x4.extmul_high_i16x8_s(b, s1));
      high = i32x4.add(high, i32x4.add(i32x4.extmul_high_i16x8_s(c, s2), i32x4.extmul_high_i16x8_s(d, s3)));
      const words = i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(low, half), SHIFT), i32x4.shr_s(i32x4.add(high, half), SHIFT));
      v128.store64_lane(out + <usize>x, i8x16.narrow_i16x8_u(words, words), 0);
    }
    for (; x < w; x++) {
      let sum = 0;
      for (let place = 0; place < 4; place++)
        sum += shareOf(tx, place) * <i32>load<i16>(line + (<usize>(x + place) << 1));
      store<u8>(out + <usize>x, byteOf(sum));
    }
  }
}

/** Two rows of four pixels each, as 16 bits. */
@inline
function rowsAt(upper: usize, lower: usize): v128 {
  return i16x8.extend_low_i8x16_u(v128.load32_lane(lower, v128.load32_zero(upper), 1));
}

/** What two rows count. */
@inline
function twoShares(at: usize): v128 {
  const upper = v128.load16_splat(at);
  const lower = v128.load16_splat(at + 2);
  return v128.shuffle<i64>(upper, lower, 0, 3);
}

/** Four pixels' sums of two columns each, one beside the other: their bytes, in one word. */
@inline
function fourBytes(one: v128, two: v128, three: v128, four: v128): u32 {
  // Pairs of pixels: (1a+1b, 1c+1d, 2a+2b, 2c+2d), and so on.
  const left = i32x4.add(v128.shuffle<i32>(one, two, 0, 2, 4, 6), v128.shuffle<i32>(one, two, 1, 3, 5, 7));
  const right = i32x4.add(v128.shuffle<i32>(three, four, 0, 2, 4, 6), v128.shuffle<i32>(three, four, 1, 3, 5, 7));
  const sums = i32x4.add(v128.shuffle<i32>(left, right, 0, 2, 4, 6), v128.shuffle<i32>(left, right, 1, 3, 5, 7));
  const words = i32x4.shr_s(i32x4.add(sums, i32x4.splat(HALF)), SHIFT);
  const halves = i16x8.narrow_i32x4_s(words, words);
  return <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0);
}

/** What the sixteen pixels around a place count, in four parts. */
@inline
function sixteenAt(plane: usize, step: usize, x: i32, y: i32): v128 {
  const px = (x + HALF_PHASE) >> PHASE_SHIFT;
  const py = (y + HALF_PHASE) >> PHASE_SHIFT;
  const at = plane + <usize>((py >> 6) - 1) * step + <usize>((px >> 6) - 1);
  const down = shares + (<usize>(py & 63) << 3);
  const upper = i16x8.mul(rowsAt(at, at + step), twoShares(down));
  const lower = i16x8.mul(rowsAt(at + 2 * step, at + 3 * step), twoShares(down + 4));
  // Each column of four, twice: the first two rows, and the last two.
  const across = v128.load64_splat(shares + (<usize>(px & 63) << 3));
  return i32x4.dot_i16x8_s(i16x8.add(upper, lower), across);
}

@inline
function parts(value: f64): i32 {
  return <i32>floor<f64>(value * PARTS + 0.5);
}

/** Whether a step is so small that places of a few pixels do not go round in 32 bits. */
@inline
function isSmall(step: i32): bool {
  return step < MOST_STEP && step > -MOST_STEP;
}

/** Whether a place and the three beyond it lie in so many pixels. */
@inline
function isInside(at: i32, length: i32): bool {
  const first = ((at + HALF_PHASE) >> 16) - 1;
  return first >= 0 && first + 4 <= length;
}

/** A plane that is turned, too, or in perspective: a row goes evenly over a few pixels. */
function turnPlane(
  base: usize,
  w: i32,
  h: i32,
  a: f64,
  b: f64,
  c: f64,
  d: f64,
  e: f64,
  f: f64,
  g: f64,
  i: f64,
  mirror: bool,
): void {
  const plane = from + base;
  const step = <usize>w;
  for (let y = 0; y < h; y++) {
    const v = <f64>y + 0.5;
    let out = to + base + <usize>(y * w);
    for (let start = 0; start < w; start += EVEN) {
      const left = <f64>start + 0.5;
      const right = <f64>(start + EVEN) + 0.5;
      const underLeft = g * left + i * v + 1;
      const underRight = g * right + i * v + 1;
      const x0 = (a * left + c * v + e) / underLeft - 0.5;
      const y0 = (b * left + d * v + f) / underLeft - 0.5;
      const stepX = parts(((a * right + c * v + e) / underRight - 0.5 - x0) / <f64>EVEN);
      const stepY = parts(((b * right + d * v + f) / underRight - 0.5 - y0) / <f64>EVEN);
      let px = parts(x0);
      let py = parts(y0);
      const lastX = px + (EVEN - 1) * stepX;
      const lastY = py + (EVEN - 1) * stepY;
      const small = start + EVEN <= w && isSmall(stepX) && isSmall(stepY);
      const inside = small && isInside(px, w) && isInside(lastX, w) && isInside(py, h) && isInside(lastY, h);
      if (inside) {
        for (let n = 0; n < EVEN; n += 4, out += 4) {
          const one = sixteenAt(plane, step, px, py);
          const two = sixteenAt(plane, step, px + stepX, py + stepY);
          const three = sixteenAt(plane, step, px + 2 * stepX, py + 2 * stepY);
          const four = sixteenAt(plane, step, px + 3 * stepX, py + 3 * stepY);
          store<u32>(out, fourBytes(one, two, three, four));
          px += 4 * stepX;
          py += 4 * stepY;
        }
        continue;
      }
      const end = min(EVEN, w - start);
      for (let n = 0; n < end; n++, out++, px += stepX, py += stepY) {
        const sx = (px + HALF_PHASE) >> PHASE_SHIFT;
        const sy = (py + HALF_PHASE) >> PHASE_SHIFT;
        store<u8>(out, pixelNear(base, w, h, (sx >> 6) - 1, (sy >> 6) - 1, sx & 63, sy & 63, mirror));
      }
    }
  }
}

function movePlane(
  base: usize,
  w: i32,
  h: i32,
  a: f64,
  b: f64,
  c: f64,
  d: f64,
  e: f64,
  f: f64,
  g: f64,
  i: f64,
  mirror: bool,
): void {
  if (a == 1 && d == 1 && b == 0 && c == 0 && g == 0 && i == 0) shiftPlane(base, w, h, e, f, mirror);
  else turnPlane(base, w, h, a, b, c, d, e, f, g, i, mirror);
}

/** Moves the picture that was written: at each place what the map leads to, in pixels, the first one's middle at a half. */
export function moveSteady(a: f64, b: f64, c: f64, d: f64, e: f64, f: f64, g: f64, h: f64, mirror: bool): void {
  const across = (width + 1) >> 1;
  const down = (height + 1) >> 1;
  const luma = <usize>(width * height);
  movePlane(0, width, height, a, b, c, d, e, f, g, h, mirror);
  // In planes of half the size.
  const chroma = luma + <usize>(across * down);
  movePlane(luma, across, down, a, b, c, d, e * 0.5, f * 0.5, g / 0.5, h / 0.5, mirror);
  movePlane(chroma, across, down, a, b, c, d, e * 0.5, f * 0.5, g / 0.5, h / 0.5, mirror);
}
