import type { Flow } from './flow';

// Looked up once: the loops below run for every pixel.
const { abs, floor, max, min, sqrt } = Math;

/**
 * What moves at a moment between two pictures: for each pixel of a grid where it lies in either of them, from where it is now, and
 * how much it is to be seen there.
 */
export interface Movement {
  width: number;
  height: number;
  /** To where it was in the first picture, in pixels of the grid. */
  firstX: Float32Array;
  firstY: Float32Array;
  /** To where it will be in the second one. */
  secondX: Float32Array;
  secondY: Float32Array;
  /** How much the first and the second count: not where what is there is hidden in it. */
  firstPart: Float32Array;
  secondPart: Float32Array;
}

/** The pixel of a grid that is nearest to a place: near enough, for a flow changes little from one to the next. */
function nearest(x: number, y: number, width: number, height: number): number {
  const column = min(max(floor(x + 0.5), 0), width - 1);
  const row = min(max(floor(y + 0.5), 0), height - 1);
  return row * width + column;
}

/** A flow with how far it and the one back miss each other, at each pixel. */
export interface FoundFlow extends Flow {
  miss: Float32Array;
}

/** How far a flow and the one back miss each other, at each pixel. */
export function missOf(there: Flow, back: Flow): Float32Array {
  const { width, height } = there;
  const miss = new Float32Array(width * height);
  for (let y = 0, n = 0; y < height; y++) {
    for (let x = 0; x < width; x++, n++) {
      const u = there.x[n]!;
      const v = there.y[n]!;
      const m = nearest(x + u, y + v, width, height);
      const du = u + back.x[m]!;
      const dv = v + back.y[m]!;
      miss[n] = sqrt(du * du + dv * dv);
    }
  }
  return miss;
}

/** What came to lie at the pixels of a grid: how it moves, and how sure that is; 0 where nothing came. */
interface Landed {
  x: Float32Array;
  y: Float32Array;
  sure: Float32Array;
}

/** How sure a flow is that comes back to where it began; others less. */
const SURE = 0.1;

/** Lays what a flow moves where it lies at a part of its way; of what comes to lie at one place, the surest. */
function landed(flow: Flow, miss: Float32Array, part: number): Landed {
  const { width, height } = flow;
  const count = width * height;
  const out: Landed = { x: new Float32Array(count), y: new Float32Array(count), sure: new Float32Array(count) };
  for (let row = 0, n = 0; row < height; row++) {
    for (let column = 0; column < width; column++, n++) {
      const u = flow.x[n]!;
      const v = flow.y[n]!;
      const px = column + part * u;
      const py = row + part * v;
      const left = floor(px);
      const top = floor(py);
      const sure = 1 / (SURE + miss[n]!);
      for (let corner = 0; corner < 4; corner++) {
        const cx = left + (corner & 1);
        const cy = top + (corner >> 1);
        if (cx < 0 || cy < 0 || cx >= width || cy >= height) continue;
        const weight = sure * (1 - abs(px - cx)) * (1 - abs(py - cy));
        const m = cy * width + cx;
        if (weight <= out.sure[m]!) continue;
        out.sure[m] = weight;
        out.x[m] = u;
        out.y[m] = v;
      }
    }
  }
  return out;
}

/** By how many times a flow must be surer than one that says something else to be followed alone. */
const SURER = 3;
/** How many times the surest of flows is believed; what is not is taken from where the flows would lie had nothing moved on. */
const TRUST = 2;
/** Pixels of the grid within which two flows say the same. */
const ALIKE = 1;
/** Least part of a picture, so that something is seen where both are hidden. */
const LEAST = 1e-3;

/**
 * Brings the flows of two pictures to a moment between them. Where both say the same, the place in each picture is told by the other
 * one's flow, so that their errors do not add up; where neither is sure, flows are taken from where they stand, which is softer. What is there is hidden in a picture whose own flow goes elsewhere from that place.
 *
 * @param forth flow of the first picture, `back` of the second, of one size
 * @param share how far the moment is from the first to the second, more than 0 and less than 1
 */
export function movementAt(forth: FoundFlow, back: FoundFlow, share: number): Movement {
  const { width, height } = forth;
  const count = width * height;
  const grid = (): Float32Array => new Float32Array(count);
  const move: Movement = {
    ...{ width, height, firstX: grid(), firstY: grid(), secondX: grid(), secondY: grid() },
    ...{ firstPart: grid(), secondPart: grid() },
  };
  const first = landed(forth, forth.miss, share);
  const second = landed(back, back.miss, 1 - share);
  const known = new Uint8Array(count);
  const trusts = grid();
  for (let n = 0; n < count; n++) {
    const a = first.sure[n]!;
    const b = second.sure[n]!;
    if (a === 0 && b === 0) continue;
    known[n] = 1;
    let ax = first.x[n]!;
    let ay = first.y[n]!;
    let bx = -second.x[n]!;
    let by = -second.y[n]!;
    const apart = abs(ax - bx) + abs(ay - by) > ALIKE;
    if (b === 0 || (apart && a >= SURER * b)) {
      bx = ax;
      by = ay;
    } else if (a === 0 || (apart && b >= SURER * a)) {
      ax = bx;
      ay = by;
    }
    const trust = min(1, TRUST * SURE * max(a, b));
    trusts[n] = trust;
    move.firstX[n] = trust * bx - (1 - trust) * back.x[n]!;
    move.firstY[n] = trust * by - (1 - trust) * back.y[n]!;
    move.secondX[n] = trust * ax + (1 - trust) * forth.x[n]!;
    move.secondY[n] = trust * ay + (1 - trust) * forth.y[n]!;
  }
  fillUnknown(move, known);
  for (let y = 0, n = 0; y < height; y++) {
    for (let x = 0; x < width; x++, n++) {
      const u = -share * move.firstX[n]!;
      const v = -share * move.firstY[n]!;
      const p = (1 - share) * move.secondX[n]!;
      const q = (1 - share) * move.secondY[n]!;
      const doubt = 1 - trusts[n]!;
      const here = doubt + trusts[n]! * seenPart(forth, x + u, y + v, move.firstX[n]!, move.firstY[n]!);
      const there = doubt + trusts[n]! * seenPart(back, x + p, y + q, -move.secondX[n]!, -move.secondY[n]!);
      move.firstPart[n] = (1 - share) * here + LEAST;
      move.secondPart[n] = share * there + LEAST;
      move.firstX[n] = u;
      move.firstY[n] = v;
      move.secondX[n] = p;
      move.secondY[n] = q;
    }
  }
  return move;
}

/** How much of what moves so is to be seen at a place of a picture, by that one's own flow; nothing outside of it. */
function seenPart(flow: Flow, x: number, y: number, u: number, v: number): number {
  const { width, height } = flow;
  if (x < -1 || y < -1 || x > width || y > height) return 0;
  const n = nearest(x, y, width, height);
  const off = abs(flow.x[n]! - u) + abs(flow.y[n]! - v);
  return 1 / (1 + off + (off * off) / 2);
}

/** What nothing came to lie at moves as what is beside it. */
function fillUnknown({ width, height, firstX, firstY, secondX, secondY }: Movement, known: Uint8Array): void {
  const count = width * height;
  for (let turn = 0; turn < 2 * count; turn++) {
    const back = turn >= count;
    const n = back ? 2 * count - 1 - turn : turn;
    if (known[n]) continue;
    const side = back ? 1 : -1;
    const column = (n % width) + side;
    const over = n + side * width;
    const from = column >= 0 && column < width && known[n + side] ? n + side : over;
    if (from < 0 || from >= count || !known[from]) continue;
    firstX[n] = firstX[from]!;
    firstY[n] = firstY[from]!;
    secondX[n] = secondX[from]!;
    secondY[n] = secondY[from]!;
    known[n] = 1;
  }
}
