import { clampF, floats, getF, mark, release, setF } from './memory';

/** As in `core/src/flow/movement.ts`, which says what this does. */
const SURE: f32 = 0.1;
const SURER: f32 = 3;
const TRUST: f32 = 2;
const ALIKE: f32 = 1;
const LEAST: f32 = 1e-3;

/** The pixel of the grid that is nearest to a place. */
@inline
function nearest(x: f32, y: f32, width: i32, height: i32): i32 {
  const column = <i32>clampF(x + 0.5, 0, <f32>(width - 1));
  const row = <i32>clampF(y + 0.5, 0, <f32>(height - 1));
  return row * width + column;
}

/** How far a flow and the one back miss each other, at each pixel. */
export function findMiss(x: usize, y: usize, backX: usize, backY: usize, width: i32, height: i32, out: usize): void {
  for (let row = 0, n = 0; row < height; row++) {
    for (let column = 0; column < width; column++, n++) {
      const u = getF(x, n);
      const v = getF(y, n);
      const m = nearest(<f32>column + u, <f32>row + v, width, height);
      const du = u + getF(backX, m);
      const dv = v + getF(backY, m);
      setF(out, n, sqrt<f32>(du * du + dv * dv));
    }
  }
}

/** Lays one thing at a place of the grid, where nothing surer lies. */
@inline
function lay(at: usize, what: v128, weight: f32): void {
  const there = v128.load(at);
  const four = f32x4.replace_lane(what, 0, weight);
  const surer = f32x4.gt(f32x4.splat(weight), f32x4.splat(f32x4.extract_lane(there, 0)));
  v128.store(at, v128.bitselect(four, there, surer));
}

/**
 * Lays what a flow moves where it lies at a part of its way; of what comes to lie at one place, the surest.
 *
 * @param out four numbers for each pixel of the grid: how sure, to the right, down, and nothing
 */
function land(x: usize, y: usize, miss: usize, width: i32, height: i32, part: f32, out: usize): void {
  memory.fill(out, 0, <usize>(width * height) << 4);
  const row16 = <usize>width << 4;
  for (let row = 0, n = 0; row < height; row++) {
    for (let column = 0; column < width; column++, n++) {
      const u = getF(x, n);
      const v = getF(y, n);
      const px = <f32>column + part * u;
      const py = <f32>row + part * v;
      // What lands outside says nothing here.
      if (!(px > -1 && py > -1 && px < <f32>width && py < <f32>height)) continue;
      const fl = floor<f32>(px);
      const ft = floor<f32>(py);
      const left = <i32>fl;
      const top = <i32>ft;
      const a = px - fl;
      const b = py - ft;
      const sure: f32 = <f32>1 / (SURE + getF(miss, n));
      const what = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 1, u), 2, v);
      const at = out + (<usize>(top * width + left) << 4);
      const upper = sure * (<f32>1 - b);
      const lower = sure * b;
      const inLeft = left >= 0;
      const inRight = left + 1 < width;
      if (top >= 0) {
        if (inLeft) lay(at, what, upper * (<f32>1 - a));
        if (inRight) lay(at + 16, what, upper * a);
      }
      if (top + 1 < height) {
        if (inLeft) lay(at + row16, what, lower * (<f32>1 - a));
        if (inRight) lay(at + row16 + 16, what, lower * a);
      }
    }
  }
}

function seenPart(x: usize, y: usize, width: i32, height: i32, px: f32, py: f32, u: f32, v: f32): f32 {
  if (px < -1 || py < -1 || px > <f32>width || py > <f32>height) return 0;
  const n = nearest(px, py, width, height);
  const off = abs<f32>(getF(x, n) - u) + abs<f32>(getF(y, n) - v);
  return 1 / (1 + off + (off * off) / 2);
}

/** Where what is at each pixel of the grid lies in both pictures, at a moment between them, and how much it is seen there. */
export class Movement {
  firstX: usize = 0;
  firstY: usize = 0;
  secondX: usize = 0;
  secondY: usize = 0;
  firstPart: usize = 0;
  secondPart: usize = 0;
}

function fillUnknown(move: Movement, trusts: usize, width: i32, height: i32): void {
  const count = width * height;
  for (let turn = 0; turn < 2 * count; turn++) {
    const back = turn >= count;
    const n = back ? 2 * count - 1 - turn : turn;
    if (getF(trusts, n) >= 0) continue;
    const side = back ? 1 : -1;
    const row = n / width;
    const column = n - row * width + side;
    const over = n + side * width;
    const from = column >= 0 && column < width && getF(trusts, n + side) >= 0 ? n + side : over;
    if (from < 0 || from >= count || getF(trusts, from) < 0) continue;
    setF(move.firstX, n, getF(move.firstX, from));
    setF(move.firstY, n, getF(move.firstY, from));
    setF(move.secondX, n, getF(move.secondX, from));
    setF(move.secondY, n, getF(move.secondY, from));
    // Known, and not believed.
    setF(trusts, n, 0);
  }
}

export function findMovement(
  move: Movement,
  width: i32,
  height: i32,
  forthX: usize,
  forthY: usize,
  forthMiss: usize,
  backX: usize,
  backY: usize,
  backMiss: usize,
  share: f32,
): void {
  const count = width * height;
  const before = mark();
  const first = floats(4 * count);
  const second = floats(4 * count);
  const trusts = floats(count);
  let unknown = false;
  land(forthX, forthY, forthMiss, width, height, share, first);
  land(backX, backY, backMiss, width, height, <f32>1 - share, second);
  for (let n = 0; n < count; n++) {
    const a = getF(first, 4 * n);
    const b = getF(second, 4 * n);
    if (a === 0 && b === 0) {
      // Not known yet.
      setF(trusts, n, -1);
      unknown = true;
      continue;
    }
    let u = getF(first, 4 * n + 1);
    let v = getF(first, 4 * n + 2);
    let p = -getF(second, 4 * n + 1);
    let q = -getF(second, 4 * n + 2);
    const apart = abs<f32>(u - p) + abs<f32>(v - q) > ALIKE;
    if (b === 0 || (apart && a >= SURER * b)) {
      p = u;
      q = v;
    } else if (a === 0 || (apart && b >= SURER * a)) {
      u = p;
      v = q;
    }
    const trust = min<f32>(1, TRUST * SURE * max<f32>(a, b));
    setF(trusts, n, trust);
    setF(move.firstX, n, trust * p - (1 - trust) * getF(backX, n));
    setF(move.firstY, n, trust * q - (1 - trust) * getF(backY, n));
    setF(move.secondX, n, trust * u + (1 - trust) * getF(forthX, n));
    setF(move.secondY, n, trust * v + (1 - trust) * getF(forthY, n));
  }
  if (unknown) fillUnknown(move, trusts, width, height);
  for (let y = 0, n = 0; y < height; y++) {
    for (let x = 0; x < width; x++, n++) {
      const trust = max<f32>(0, getF(trusts, n));
      const fx = getF(move.firstX, n);
      const fy = getF(move.firstY, n);
      const sx = getF(move.secondX, n);
      const sy = getF(move.secondY, n);
      const u = -share * fx;
      const v = -share * fy;
      const p: f32 = (<f32>1 - share) * sx;
      const q: f32 = (<f32>1 - share) * sy;
      let here: f32 = 1;
      let there: f32 = 1;
      if (trust > 0) {
        here = 1 - trust + trust * seenPart(forthX, forthY, width, height, <f32>x + u, <f32>y + v, fx, fy);
        there = 1 - trust + trust * seenPart(backX, backY, width, height, <f32>x + p, <f32>y + q, -sx, -sy);
      }
      setF(move.firstPart, n, (1 - share) * here + LEAST);
      setF(move.secondPart, n, share * there + LEAST);
      setF(move.firstX, n, u);
      setF(move.firstY, n, v);
      setF(move.secondX, n, p);
      setF(move.secondY, n, q);
    }
  }
  release(before);
}
