import { clampI, getF, highOf, lowOf, setF, take } from './memory';

/** As in `core/src/flow/search.ts`, which says what this does and where it comes from. */
export const PATCH: i32 = 8;
export const STEP: i32 = 4;
const AREA: f32 = 64;
const STEPS: i32 = 10;
const SMALL: f32 = 0.0025;
const FLAT: f32 = 1;
const OTHER: f32 = 0.05;
const LOST: f32 = 60;
const AROUND: i32 = 10;
const STRIDE: i32 = 2;
const FOUND: f32 = 0.3;
/** Bytes of a row of what is laid out anew at the edges of a picture. */
const ROW: i32 = 16;

const values: usize = memory.data(256, 16);
const gradX: usize = memory.data(256, 16);
const gradY: usize = memory.data(256, 16);
const off: usize = memory.data(256, 16);
/** Ten rows of what lies around a patch, where some of it is past an edge. */
const edge: usize = memory.data(256, 16);

let fromData: usize = 0;
let toData: usize = 0;
let width: i32 = 0;
let height: i32 = 0;
let atX: i32 = 0;
let atY: i32 = 0;
let xx: f32 = 0;
let xy: f32 = 0;
let yy: f32 = 0;
let nowU: f32 = 0;
let nowV: f32 = 0;
let best: f32 = 0;

export function patchesAlong(side: i32): i32 {
  return side <= PATCH ? 1 : (side - PATCH + STEP - 1) / STEP + 1;
}

@inline
export function patchAt(index: i32, side: i32): i32 {
  return max(0, min(index * STEP, side - PATCH));
}

/** Lays rows of ten bytes out anew, those past an edge as the edge is; gives where they are. */
function laidOut(data: usize, left: i32, top: i32, rows: i32): usize {
  for (let j = 0; j < rows; j++) {
    const row = data + <usize>(clampI(top + j, 0, height - 1) * width);
    for (let i = 0; i < 10; i++) store<u8>(edge + <usize>(j * ROW + i), load<u8>(row + <usize>clampI(left + i, 0, width - 1)));
  }
  return edge;
}

@inline
function sumOf(four: v128): f32 {
  return (
    f32x4.extract_lane(four, 0) + f32x4.extract_lane(four, 1) + (f32x4.extract_lane(four, 2) + f32x4.extract_lane(four, 3))
  );
}

/** Takes a patch: its values without their mean, and how they change across it. */
function open(x: i32, y: i32): void {
  atX = x;
  atY = y;
  let stride = width;
  let at = fromData + <usize>(y * width + x);
  if (x < 1 || y < 1 || x + 9 > width || y + 9 > height) {
    at = laidOut(fromData, x - 1, y - 1, 10) + <usize>(ROW + 1);
    stride = ROW;
  }
  let sum = f32x4.splat(0);
  let sumX = f32x4.splat(0);
  let sumY = f32x4.splat(0);
  const half = f32x4.splat(0.5);
  for (let j: usize = 0; j < 8; j++) {
    const here = v128.load_ext<u8>(at);
    const dx = i16x8.sub(v128.load_ext<u8>(at + 1), v128.load_ext<u8>(at - 1));
    const dy = i16x8.sub(v128.load_ext<u8>(at + <usize>stride), v128.load_ext<u8>(at - <usize>stride));
    const n = j << 5;
    const a = lowOf(here);
    const b = highOf(here);
    const xa = f32x4.mul(lowOf(dx), half);
    const xb = f32x4.mul(highOf(dx), half);
    const ya = f32x4.mul(lowOf(dy), half);
    const yb = f32x4.mul(highOf(dy), half);
    v128.store(values + n, a);
    v128.store(values + n, b, 16);
    v128.store(gradX + n, xa);
    v128.store(gradX + n, xb, 16);
    v128.store(gradY + n, ya);
    v128.store(gradY + n, yb, 16);
    sum = f32x4.add(sum, f32x4.add(a, b));
    sumX = f32x4.add(sumX, f32x4.add(xa, xb));
    sumY = f32x4.add(sumY, f32x4.add(ya, yb));
    at += <usize>stride;
  }
  const mean = f32x4.splat(sumOf(sum) / AREA);
  const meanX = f32x4.splat(sumOf(sumX) / AREA);
  const meanY = f32x4.splat(sumOf(sumY) / AREA);
  let sumXX = f32x4.splat(0);
  let sumXY = f32x4.splat(0);
  let sumYY = f32x4.splat(0);
  for (let n: usize = 0; n < 256; n += 16) {
    v128.store(values + n, f32x4.sub(v128.load(values + n), mean));
    const dx = f32x4.sub(v128.load(gradX + n), meanX);
    const dy = f32x4.sub(v128.load(gradY + n), meanY);
    v128.store(gradX + n, dx);
    v128.store(gradY + n, dy);
    sumXX = f32x4.add(sumXX, f32x4.mul(dx, dx));
    sumXY = f32x4.add(sumXY, f32x4.mul(dx, dy));
    sumYY = f32x4.add(sumYY, f32x4.mul(dy, dy));
  }
  xx = sumOf(sumXX) + FLAT * AREA;
  xy = sumOf(sumXY);
  yy = sumOf(sumYY) + FLAT * AREA;
}

/** How much the other picture is off with the patch so far away: the mean square, apart from how bright all of it is. */
function cost(u: f32, v: f32): f32 {
  const px = min<f32>(max<f32>(<f32>atX + u, <f32>-16), <f32>(width + PATCH));
  const py = min<f32>(max<f32>(<f32>atY + v, <f32>-16), <f32>(height + PATCH));
  const fl = floor<f32>(px);
  const ft = floor<f32>(py);
  const fx = px - fl;
  const fy = py - ft;
  const left = <i32>fl;
  const top = <i32>ft;
  let stride = width;
  let at = toData + <usize>(top * width + left);
  if (left < 0 || top < 0 || left + 9 > width || top + 9 > height) {
    at = laidOut(toData, left, top, 9);
    stride = ROW;
  }
  const w00 = f32x4.splat((1 - fx) * (1 - fy));
  const w10 = f32x4.splat(fx * (1 - fy));
  const w01 = f32x4.splat((1 - fx) * fy);
  const w11 = f32x4.splat(fx * fy);
  let here = v128.load_ext<u8>(at);
  let next = v128.load_ext<u8>(at + 1);
  let upperA = lowOf(here);
  let upperB = highOf(here);
  let upperNextA = lowOf(next);
  let upperNextB = highOf(next);
  let sum = f32x4.splat(0);
  let squares = f32x4.splat(0);
  for (let n: usize = 0; n < 256; n += 32) {
    at += <usize>stride;
    here = v128.load_ext<u8>(at);
    next = v128.load_ext<u8>(at + 1);
    const lowerA = lowOf(here);
    const lowerB = highOf(here);
    const lowerNextA = lowOf(next);
    const lowerNextB = highOf(next);
    const a = f32x4.sub(
      f32x4.add(
        f32x4.add(f32x4.mul(w00, upperA), f32x4.mul(w10, upperNextA)),
        f32x4.add(f32x4.mul(w01, lowerA), f32x4.mul(w11, lowerNextA)),
      ),
      v128.load(values + n),
    );
    const b = f32x4.sub(
      f32x4.add(
        f32x4.add(f32x4.mul(w00, upperB), f32x4.mul(w10, upperNextB)),
        f32x4.add(f32x4.mul(w01, lowerB), f32x4.mul(w11, lowerNextB)),
      ),
      v128.load(values + n, 16),
    );
    v128.store(off + n, a);
    v128.store(off + n, b, 16);
    sum = f32x4.add(sum, f32x4.add(a, b));
    squares = f32x4.add(squares, f32x4.add(f32x4.mul(a, a), f32x4.mul(b, b)));
    upperA = lowerA;
    upperB = lowerB;
    upperNextA = lowerNextA;
    upperNextB = lowerNextB;
  }
  const mean = sumOf(sum) / AREA;
  return max<f32>(0, sumOf(squares) / AREA - mean * mean);
}

@inline
function stay(u: f32, v: f32, found: f32): void {
  nowU = u;
  nowV = v;
  best = found;
}

function look(u: f32, v: f32): bool {
  if (abs<f32>(u - nowU) + abs<f32>(v - nowV) < OTHER) return false;
  const found = cost(u, v);
  if (found >= best) return false;
  stay(u, v, found);
  return true;
}

function refine(): void {
  const determinant = xx * yy - xy * xy;
  const firstU = nowU;
  const firstV = nowV;
  cost(firstU, firstV);
  let u = firstU;
  let v = firstV;
  for (let step = 0; step < STEPS; step++) {
    let sumX = f32x4.splat(0);
    let sumY = f32x4.splat(0);
    // The gradients have no mean, so that of what is off does not count.
    for (let n: usize = 0; n < 256; n += 16) {
      const d = v128.load(off + n);
      sumX = f32x4.add(sumX, f32x4.mul(v128.load(gradX + n), d));
      sumY = f32x4.add(sumY, f32x4.mul(v128.load(gradY + n), d));
    }
    const bx = sumOf(sumX);
    const by = sumOf(sumY);
    const du = (yy * bx - xy * by) / determinant;
    const dv = (xx * by - xy * bx) / determinant;
    u -= du;
    v -= dv;
    if (abs<f32>(u - firstU) > <f32>PATCH || abs<f32>(v - firstV) > <f32>PATCH) return;
    const found = cost(u, v);
    if (found >= best) return;
    stay(u, v, found);
    if (du * du + dv * dv < SMALL) return;
  }
}

/** Looks all around, and stays where it fits far better. */
function lookAround(): void {
  const u = nowU;
  const v = nowV;
  const before = best;
  let least = before;
  let leastU = u;
  let leastV = v;
  for (let dv = -AROUND; dv <= AROUND; dv += STRIDE) {
    for (let du = -AROUND; du <= AROUND; du += STRIDE) {
      const found = cost(u + <f32>du, v + <f32>dv);
      if (found >= least) continue;
      least = found;
      leastU = u + <f32>du;
      leastV = v + <f32>dv;
    }
  }
  stay(leastU, leastV, least);
  refine();
  if (best > FOUND * before) stay(u, v, before);
}

function isOther(x: usize, y: usize, one: i32, other: i32): bool {
  return abs<f32>(getF(x, one) - getF(x, other)) + abs<f32>(getF(y, one) - getF(y, other)) >= OTHER;
}

/**
 * Looks for each patch of a picture in another.
 *
 * @param startX where to begin, `startY` down, for each pixel
 * @param outX where each patch was found, `outY` down
 */
export function searchPatches(
  from: usize,
  to: usize,
  w: i32,
  h: i32,
  far: bool,
  startX: usize,
  startY: usize,
  outX: usize,
  outY: usize,
): void {
  fromData = from;
  toData = to;
  width = w;
  height = h;
  const across = patchesAlong(w);
  const down = patchesAlong(h);
  const count = across * down;
  const costs = take(<usize>count << 2);
  for (let turn = 0; turn < 2 * count; turn++) {
    const back = turn >= count;
    const index = back ? 2 * count - 1 - turn : turn;
    const row = index / across;
    const column = index - row * across;
    const side = back ? 1 : -1;
    const beside = column + side;
    const over = row + side;
    const neighbour = index + side * across;
    // On the way back only what a neighbour might show anew is looked at.
    if (
      back &&
      !(beside < across && isOther(outX, outY, index, index + 1)) &&
      !(over < down && isOther(outX, outY, index, neighbour))
    )
      continue;
    const left = patchAt(column, w);
    const upper = patchAt(row, h);
    open(left, upper);
    if (back) stay(getF(outX, index), getF(outY, index), getF(costs, index));
    else {
      const middle = min(upper + PATCH / 2, h - 1) * w + min(left + PATCH / 2, w - 1);
      const u = getF(startX, middle);
      const v = getF(startY, middle);
      stay(u, v, cost(u, v));
    }
    let moved = !back;
    if (beside >= 0 && beside < across) moved = look(getF(outX, index + side), getF(outY, index + side)) || moved;
    if (over >= 0 && over < down) {
      moved = look(getF(outX, neighbour), getF(outY, neighbour)) || moved;
    }
    if (moved) refine();
    if (far && !back && best > LOST) lookAround();
    setF(outX, index, nowU);
    setF(outY, index, nowV);
    setF(costs, index, best);
  }
}
