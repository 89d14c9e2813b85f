import { clampF, floats, getF, mark, release, setF, take } from './memory';
import { Movement } from './movement';

/** As in `core/src/flow/warp.ts`, which says what this does. */
const EDGE: f32 = 1;
const EVEN: f32 = 8;
const LEAST: f32 = 0.01;
const ALIKE: f32 = 24;
const UNLIKE: f32 = 96;

@inline
function valueAt(data: usize, width: i32, height: i32, x: f32, y: f32): f32 {
  const px = clampF(x, 0, <f32>(width - 1));
  const py = clampF(y, 0, <f32>(height - 1));
  const left = <i32>px;
  const top = <i32>py;
  const a = px - <f32>left;
  const b = py - <f32>top;
  const n = data + <usize>(top * width + left);
  const right: usize = left + 1 < width ? 1 : 0;
  const below: usize = top + 1 < height ? <usize>width : 0;
  const v00 = <f32>load<u8>(n);
  const v01 = <f32>load<u8>(n + below);
  const upper = v00 + a * (<f32>load<u8>(n + right) - v00);
  const lower = v01 + a * (<f32>load<u8>(n + below + right) - v01);
  return upper + b * (lower - upper);
}

/** How a row of the grid is spread over a row of the plane: each number once, twice, or by any other factor. */
const SAME: i32 = 1;
const DOUBLE: i32 = 2;
const ANY: i32 = 0;

/** A row of the grid between two of its rows, for each pixel of the plane. */
function fillRow(
  values: usize,
  upper: i32,
  lower: i32,
  b: f32,
  out: usize,
  width: i32,
  columns: i32,
  spread: i32,
  between: usize,
  lefts: usize,
  parts: usize,
): void {
  const to = spread === SAME ? out : between;
  const one = values + (<usize>upper << 2);
  const next = values + (<usize>lower << 2);
  const share = f32x4.splat(b);
  // Room ends a little later than what is written, see `take`.
  for (let n: usize = 0, end = <usize>columns << 2; n < end; n += 16) {
    const u = v128.load(one + n);
    v128.store(to + n, f32x4.add(u, f32x4.mul(share, f32x4.sub(v128.load(next + n), u))));
  }
  if (spread === SAME) return;
  if (spread === DOUBLE) {
    // What lies beside the row is as its ends are.
    store<f32>(to - 4, load<f32>(to));
    setF(to, columns, getF(to, columns - 1));
    const most = f32x4.splat(0.75);
    const rest = f32x4.splat(0.25);
    for (let n: usize = 0, end = <usize>columns << 2; n < end; n += 16) {
      const here = f32x4.mul(most, v128.load(to + n));
      const even = f32x4.add(here, f32x4.mul(rest, v128.load(to + n - 4)));
      const odd = f32x4.add(here, f32x4.mul(rest, v128.load(to + n + 4)));
      v128.store(out + (n << 1), v128.shuffle<f32>(even, odd, 0, 4, 1, 5));
      v128.store(out + (n << 1), v128.shuffle<f32>(even, odd, 2, 6, 3, 7), 16);
    }
    return;
  }
  const last = columns - 1;
  for (let x = 0; x < width; x++) {
    const l = load<i32>(lefts + (<usize>x << 2));
    const v = getF(to, l);
    setF(out, x, v + getF(parts, x) * (getF(to, l < last ? l + 1 : l) - v));
  }
}

/** Four pixels of a plane at places in it, between its pixels. */
@inline
function fourAt(data: usize, width: i32, height: i32, x: v128, y: v128): v128 {
  const zero = f32x4.splat(0);
  const px = f32x4.min(f32x4.max(x, zero), f32x4.splat(<f32>(width - 1)));
  const py = f32x4.min(f32x4.max(y, zero), f32x4.splat(<f32>(height - 1)));
  // At the last pixel it is all of the second of two.
  const left = i32x4.min_s(i32x4.trunc_sat_f32x4_s(px), i32x4.splat(width - 2));
  const top = i32x4.min_s(i32x4.trunc_sat_f32x4_s(py), i32x4.splat(height - 2));
  const a = f32x4.sub(px, f32x4.convert_i32x4_s(left));
  const b = f32x4.sub(py, f32x4.convert_i32x4_s(top));
  const at = i32x4.add(i32x4.mul(top, i32x4.splat(width)), left);
  const p0 = data + <usize>i32x4.extract_lane(at, 0);
  const p1 = data + <usize>i32x4.extract_lane(at, 1);
  const p2 = data + <usize>i32x4.extract_lane(at, 2);
  const p3 = data + <usize>i32x4.extract_lane(at, 3);
  const w = <usize>width;
  // Two neighbours at once.
  let upper = i32x4.splat(<i32>load<u16>(p0));
  upper = i32x4.replace_lane(upper, 1, <i32>load<u16>(p1));
  upper = i32x4.replace_lane(upper, 2, <i32>load<u16>(p2));
  upper = i32x4.replace_lane(upper, 3, <i32>load<u16>(p3));
  let lower = i32x4.splat(<i32>load<u16>(p0 + w));
  lower = i32x4.replace_lane(lower, 1, <i32>load<u16>(p1 + w));
  lower = i32x4.replace_lane(lower, 2, <i32>load<u16>(p2 + w));
  lower = i32x4.replace_lane(lower, 3, <i32>load<u16>(p3 + w));
  const mask = i32x4.splat(255);
  const v00 = f32x4.convert_i32x4_s(v128.and(upper, mask));
  const v10 = f32x4.convert_i32x4_s(i32x4.shr_u(upper, 8));
  const v01 = f32x4.convert_i32x4_s(v128.and(lower, mask));
  const v11 = f32x4.convert_i32x4_s(i32x4.shr_u(lower, 8));
  const one = f32x4.add(v00, f32x4.mul(a, f32x4.sub(v10, v00)));
  const next = f32x4.add(v01, f32x4.mul(a, f32x4.sub(v11, v01)));
  return f32x4.add(one, f32x4.mul(b, f32x4.sub(next, one)));
}

/** Four bytes as numbers. */
@inline
function bytesAt(at: usize): v128 {
  const four = v128.load32_zero(at);
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(four)));
}

/** How far apart the least and the greatest of four neighbours are, four times at once. */
@inline
function spreadOf(values: usize, n: usize, below: usize): v128 {
  const one = v128.load(values + n);
  const next = v128.load(values + n, 4);
  const two = v128.load(values + n + below);
  const last = v128.load(values + n + below, 4);
  return f32x4.sub(
    f32x4.max(f32x4.max(one, next), f32x4.max(two, last)),
    f32x4.min(f32x4.min(one, next), f32x4.min(two, last)),
  );
}

/** Whether things that move otherwise lie side by side in each cell of the grid; beside its right edge it may be told in vain. */
export function findEdges(move: Movement, columns: i32, rows: i32, share: f32, out: usize): void {
  const most = f32x4.splat(EDGE * share);
  for (let y = 0; y < rows; y++) {
    const below = y + 1 < rows ? <usize>columns << 2 : 0;
    for (let x = 0; x < columns; x += 4) {
      const place = <usize>(y * columns + x);
      const n = place << 2;
      const told = f32x4.gt(f32x4.add(spreadOf(move.firstX, n, below), spreadOf(move.firstY, n, below)), most);
      store<u8>(out + place, i32x4.extract_lane(told, 0) & 1);
      store<u8>(out + place, i32x4.extract_lane(told, 1) & 1, 1);
      store<u8>(out + place, i32x4.extract_lane(told, 2) & 1, 2);
      store<u8>(out + place, i32x4.extract_lane(told, 3) & 1, 3);
    }
  }
}

function likeness(move: Movement, m: i32, one: usize, two: usize, width: i32, height: i32, x: i32, y: i32, wide: f32, high: f32): f32 {
  const there = valueAt(one, width, height, <f32>x + wide * getF(move.firstX, m), <f32>y + high * getF(move.firstY, m));
  const here = valueAt(two, width, height, <f32>x + wide * getF(move.secondX, m), <f32>y + high * getF(move.secondY, m));
  return 1 / (EVEN + abs<f32>(there - here));
}

/**
 * Makes a plane of the picture at a moment between two.
 *
 * @returns the share of it that was not believed
 */
export function warpPlane(
  one: usize,
  two: usize,
  width: i32,
  height: i32,
  move: Movement,
  edges: usize,
  columns: i32,
  rows: i32,
  share: f32,
  out: usize,
): f32 {
  const before = mark();
  const across = <f32>columns / <f32>width;
  const down = <f32>rows / <f32>height;
  const wide = <f32>width / <f32>columns;
  const high = <f32>height / <f32>rows;
  const lefts = take(<usize>width << 2);
  const parts = floats(width);
  for (let x = 0; x < width; x++) {
    const gx = clampF((<f32>x + 0.5) * across - 0.5, 0, <f32>(columns - 1));
    const left = <i32>gx;
    store<i32>(lefts + (<usize>x << 2), left);
    setF(parts, x, gx - <f32>left);
  }
  // Rows are filled four numbers at a time, and a little beyond their ends.
  const room = width + 16;
  const between = floats(columns + 16) + 16;
  const ax = floats(room);
  const ay = floats(room);
  const bx = floats(room);
  const by = floats(room);
  const pa = floats(room);
  const pb = floats(room);
  let doubts: f32 = 0;
  const last = columns - 1;
  const spread = width === columns ? SAME : width === 2 * columns ? DOUBLE : ANY;
  const fours = width >= 2 && height >= 2 ? width & ~3 : 0;
  const wides = f32x4.splat(wide);
  const highs = f32x4.splat(high);
  const ramp = f32x4(0, 1, 2, 3);
  const alikes = f32x4.splat(ALIKE);
  const unlike: f32 = 1 / (UNLIKE - ALIKE);
  const ones = f32x4.splat(1);
  const halves = f32x4.splat(0.5);
  const shares = f32x4.splat(share);
  const rests = f32x4.splat(<f32>1 - share);
  const perShare = f32x4.splat(<f32>1 / share);
  const perRest = f32x4.splat(<f32>1 / (<f32>1 - share));
  for (let y = 0; y < height; y++) {
    const gy = clampF((<f32>y + 0.5) * down - 0.5, 0, <f32>(rows - 1));
    const top = <i32>gy;
    const b = gy - <f32>top;
    const upper = top * columns;
    const lower = top + 1 < rows ? upper + columns : upper;
    fillRow(move.firstX, upper, lower, b, ax, width, columns, spread, between, lefts, parts);
    fillRow(move.firstY, upper, lower, b, ay, width, columns, spread, between, lefts, parts);
    fillRow(move.secondX, upper, lower, b, bx, width, columns, spread, between, lefts, parts);
    fillRow(move.secondY, upper, lower, b, by, width, columns, spread, between, lefts, parts);
    fillRow(move.firstPart, upper, lower, b, pa, width, columns, spread, between, lefts, parts);
    fillRow(move.secondPart, upper, lower, b, pb, width, columns, spread, between, lefts, parts);
    let doubtsHere: f32 = 0;
    let x = 0;
    const ys = f32x4.splat(<f32>y);
    while (x < width) {
      if (x < fours) {
        const at = lefts + (<usize>x << 2);
        const edge =
          load<u8>(edges + <usize>(upper + load<i32>(at))) |
          load<u8>(edges + <usize>(upper + load<i32>(at, 4))) |
          load<u8>(edges + <usize>(upper + load<i32>(at, 8))) |
          load<u8>(edges + <usize>(upper + load<i32>(at, 12)));
        if (!edge) {
          const n = <usize>x << 2;
          const xs = f32x4.add(f32x4.splat(<f32>x), ramp);
          const va = fourAt(
            one,
            width,
            height,
            f32x4.add(xs, f32x4.mul(wides, v128.load(ax + n))),
            f32x4.add(ys, f32x4.mul(highs, v128.load(ay + n))),
          );
          const vb = fourAt(
            two,
            width,
            height,
            f32x4.add(xs, f32x4.mul(wides, v128.load(bx + n))),
            f32x4.add(ys, f32x4.mul(highs, v128.load(by + n))),
          );
          const wa = v128.load(pa + n);
          const wb = v128.load(pb + n);
          let made = f32x4.div(f32x4.add(f32x4.mul(wa, va), f32x4.mul(wb, vb)), f32x4.add(wa, wb));
          const off = f32x4.sub(f32x4.abs(f32x4.sub(va, vb)), alikes);
          const place = <usize>(y * width + x);
          if (v128.any_true(f32x4.gt(off, f32x4.splat(0)))) {
            const both = f32x4.min(ones, f32x4.min(f32x4.mul(wa, perRest), f32x4.mul(wb, perShare)));
            const unsure = f32x4.max(f32x4.splat(0), f32x4.min(ones, f32x4.mul(off, f32x4.splat(unlike))));
            const doubt = f32x4.mul(both, unsure);
            doubtsHere +=
              f32x4.extract_lane(doubt, 0) +
              f32x4.extract_lane(doubt, 1) +
              f32x4.extract_lane(doubt, 2) +
              f32x4.extract_lane(doubt, 3);
            const plain = f32x4.add(
              f32x4.mul(rests, bytesAt(one + place)),
              f32x4.mul(shares, bytesAt(two + place)),
            );
            made = f32x4.add(made, f32x4.mul(doubt, f32x4.sub(plain, made)));
          }
          const whole = i32x4.trunc_sat_f32x4_s(f32x4.add(made, halves));
          const narrow = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(whole, whole), i16x8.splat(0));
          store<i32>(out + place, i32x4.extract_lane(narrow, 0));
          x += 4;
          continue;
        }
      }
      // Four with an edge among them, or the last ones of a row.
      for (let end = min(x + 4, width); x < end; x++) {
        const left = load<i32>(lefts + (<usize>x << 2));
        let u = getF(ax, x);
        let v = getF(ay, x);
        let p = getF(bx, x);
        let q = getF(by, x);
        let wa = getF(pa, x);
        let wb = getF(pb, x);
        if (load<u8>(edges + <usize>(upper + left))) {
          const a = getF(parts, x);
          const right = left < last ? left + 1 : left;
          const m0 = upper + left;
          const m1 = upper + right;
          const m2 = lower + left;
          const m3 = lower + right;
          let w0: f32 = ((<f32>1 - a) * (<f32>1 - b) + LEAST) * likeness(move, m0, one, two, width, height, x, y, wide, high);
          let w1: f32 = (a * (<f32>1 - b) + LEAST) * likeness(move, m1, one, two, width, height, x, y, wide, high);
          let w2: f32 = ((<f32>1 - a) * b + LEAST) * likeness(move, m2, one, two, width, height, x, y, wide, high);
          let w3: f32 = (a * b + LEAST) * likeness(move, m3, one, two, width, height, x, y, wide, high);
          const sum: f32 = <f32>1 / (w0 + w1 + w2 + w3);
          w0 *= sum;
          w1 *= sum;
          w2 *= sum;
          w3 *= sum;
          u = mixed(move.firstX, m0, m1, m2, m3, w0, w1, w2, w3);
          v = mixed(move.firstY, m0, m1, m2, m3, w0, w1, w2, w3);
          p = mixed(move.secondX, m0, m1, m2, m3, w0, w1, w2, w3);
          q = mixed(move.secondY, m0, m1, m2, m3, w0, w1, w2, w3);
          wa = mixed(move.firstPart, m0, m1, m2, m3, w0, w1, w2, w3);
          wb = mixed(move.secondPart, m0, m1, m2, m3, w0, w1, w2, w3);
        }
        const va = valueAt(one, width, height, <f32>x + wide * u, <f32>y + high * v);
        const vb = valueAt(two, width, height, <f32>x + wide * p, <f32>y + high * q);
        let made = (wa * va + wb * vb) / (wa + wb);
        const off = abs<f32>(va - vb);
        const n = <usize>(y * width + x);
        if (off > ALIKE) {
          const both = min<f32>(1, min<f32>(wa / (<f32>1 - share), wb / share));
          const doubt = both * min<f32>(1, (off - ALIKE) * unlike);
          doubtsHere += doubt;
          made += doubt * ((<f32>1 - share) * <f32>load<u8>(one + n) + share * <f32>load<u8>(two + n) - made);
        }
        store<u8>(out + n, <u8>(made + 0.5));
      }
    }
    doubts += doubtsHere;
  }
  release(before);
  return doubts / (<f32>width * <f32>height);
}

@inline
function mixed(values: usize, m0: i32, m1: i32, m2: i32, m3: i32, w0: f32, w1: f32, w2: f32, w3: f32): f32 {
  return getF(values, m0) * w0 + getF(values, m1) * w1 + getF(values, m2) * w2 + getF(values, m3) * w3;
}
