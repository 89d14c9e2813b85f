import type { Plane } from './pyramid';

// Looked up once: the loops below run for every pixel.
const { abs, ceil, floor, max, min } = Math;

/** Pixels along the side of a patch, and from one patch to the next. */
export const PATCH = 8;
const STEP = 4;
const AREA = PATCH * PATCH;
/** Steps of the search for one patch, and how small one is at which it ends (pixels, squared). */
const STEPS = 10;
const SMALL = 0.0025;
/** Least change of brightness across a patch, squared, a pixel: below it is noise, and nothing is said that way. */
const FLAT = 1;
/** Pixels by which a neighbour's place must be another to be worth a look. */
const OTHER = 0.05;

/** Mean square by which a patch must be off to be looked for all around: it may have gone farther than it is large. */
const LOST = 60;
/** Pixels to each side in which it is looked for then, and from one place to the next. */
const AROUND = 10;
const STRIDE = 2;
/** The part of what it was off that a place found so may be off at most. */
const FOUND = 0.3;

/** Where the patches of one picture lie in another: pixels to the right and down of where they were. */
export interface Patches {
  across: number;
  down: number;
  x: Float32Array;
  y: Float32Array;
}

/** Places of patches along a side: every few pixels, the last at the edge. */
const patchesAlong = (side: number): number => (side <= PATCH ? 1 : ceil((side - PATCH) / STEP) + 1);
/** The first pixel of a patch along a side. */
export const patchAt = (index: number, side: number): number => max(0, min(index * STEP, side - PATCH));

/**
 * Looks for each patch of a picture in another: dense inverse search (Kroeger, Timofte, Dai and Van Gool, Fast Optical Flow using
 * Dense Inverse Search, ECCV 2016), the inverse compositional way of Lucas and Kanade with each patch's mean taken off, begun where
 * the level above says or where a neighbour was found, whichever fits better.
 *
 * @param far whether what is not found there is looked for all around: something small that moves fast is not seen from far off
 * @param startX where to begin, pixels to the right, for each pixel of the picture; `startY` down
 */
export function searchPatches(
  from: Plane,
  to: Plane,
  far: boolean,
  startX: Float32Array,
  startY: Float32Array,
): Patches {
  const { width, height } = from;
  const across = patchesAlong(width);
  const down = patchesAlong(height);
  const count = across * down;
  const patches: Patches = { across, down, x: new Float32Array(count), y: new Float32Array(count) };
  const costs = new Float32Array(count);
  const search = new PatchSearch(from, to);
  // To and back, so that what was found anywhere can get everywhere.
  for (let turn = 0; turn < 2 * count; turn++) {
    const back = turn >= count;
    const index = back ? 2 * count - 1 - turn : turn;
    const column = index % across;
    const row = (index - column) / across;
    const left = patchAt(column, width);
    const top = patchAt(row, height);
    search.open(left, top);
    if (back) search.take(patches.x[index]!, patches.y[index]!, costs[index]!);
    else {
      const middle = min(top + PATCH / 2, height - 1) * width + min(left + PATCH / 2, width - 1);
      search.begin(startX[middle]!, startY[middle]!);
    }
    const side = back ? 1 : -1;
    let moved = !back;
    const beside = column + side;
    if (beside >= 0 && beside < across)
      moved = search.look(patches.x[index + side]!, patches.y[index + side]!) || moved;
    const over = row + side;
    if (over >= 0 && over < down) {
      const neighbour = index + side * across;
      moved = search.look(patches.x[neighbour]!, patches.y[neighbour]!) || moved;
    }
    if (moved) search.refine();
    if (far && !back && search.best > LOST) search.lookAround();
    patches.x[index] = search.u;
    patches.y[index] = search.v;
    costs[index] = search.best;
  }
  return patches;
}

/** The search for one patch after the other. */
class PatchSearch {
  /** Where it fits best so far, and how much it is off there. */
  u = 0;
  v = 0;
  best = 0;
  private readonly values = new Float32Array(AREA);
  private readonly gradX = new Float32Array(AREA);
  private readonly gradY = new Float32Array(AREA);
  private readonly off = new Float32Array(AREA);
  private readonly across = new Int32Array(PATCH + 1);
  private x = 0;
  private y = 0;
  private xx = 0;
  private xy = 0;
  private yy = 0;

  constructor(
    private readonly from: Plane,
    private readonly to: Plane,
  ) {}

  /** Takes a patch: its values without their mean, and how they change across it. */
  open(x: number, y: number): void {
    const { values, gradX, gradY } = this;
    const { data, width, height } = this.from;
    this.x = x;
    this.y = y;
    let sum = 0;
    let sumX = 0;
    let sumY = 0;
    for (let j = 0, n = 0; j < PATCH; j++) {
      const row = min(y + j, height - 1);
      const above = max(row - 1, 0) * width;
      const here = row * width;
      const below = min(row + 1, height - 1) * width;
      for (let i = 0; i < PATCH; i++, n++) {
        const column = min(x + i, width - 1);
        const value = data[here + column]!;
        const dx = (data[here + min(column + 1, width - 1)]! - data[here + max(column - 1, 0)]!) * 0.5;
        const dy = (data[below + column]! - data[above + column]!) * 0.5;
        values[n] = value;
        gradX[n] = dx;
        gradY[n] = dy;
        sum += value;
        sumX += dx;
        sumY += dy;
      }
    }
    let xx = FLAT * AREA;
    let xy = 0;
    let yy = FLAT * AREA;
    for (let n = 0; n < AREA; n++) {
      values[n] = values[n]! - sum / AREA;
      const dx = gradX[n]! - sumX / AREA;
      const dy = gradY[n]! - sumY / AREA;
      gradX[n] = dx;
      gradY[n] = dy;
      xx += dx * dx;
      xy += dx * dy;
      yy += dy * dy;
    }
    this.xx = xx;
    this.xy = xy;
    this.yy = yy;
  }

  begin(u: number, v: number): void {
    this.take(u, v, this.cost(u, v));
  }

  take(u: number, v: number, best: number): void {
    this.u = u;
    this.v = v;
    this.best = best;
  }

  /** Moves to where a neighbour was found, where that fits better; says whether. */
  look(u: number, v: number): boolean {
    if (abs(u - this.u) + abs(v - this.v) < OTHER) return false;
    const found = this.cost(u, v);
    if (found >= this.best) return false;
    this.take(u, v, found);
    return true;
  }

  /** Looks all around, and stays where it fits far better. */
  lookAround(): void {
    const u = this.u;
    const v = this.v;
    const before = this.best;
    const most = FOUND * before;
    let best = before;
    let bestU = u;
    let bestV = v;
    for (let dv = -AROUND; dv <= AROUND; dv += STRIDE) {
      for (let du = -AROUND; du <= AROUND; du += STRIDE) {
        const found = this.cost(u + du, v + dv);
        if (found >= best) continue;
        best = found;
        bestU = u + du;
        bestV = v + dv;
      }
    }
    this.take(bestU, bestV, best);
    this.refine();
    if (this.best > most) this.take(u, v, before);
  }

  /** Goes on from there as long as it fits better. */
  refine(): void {
    const { off, gradX, gradY, xx, xy, yy } = this;
    const determinant = xx * yy - xy * xy;
    const firstU = this.u;
    const firstV = this.v;
    this.cost(firstU, firstV);
    let u = firstU;
    let v = firstV;
    for (let step = 0; step < STEPS; step++) {
      let bx = 0;
      let by = 0;
      for (let n = 0; n < AREA; n++) {
        bx += gradX[n]! * off[n]!;
        by += gradY[n]! * off[n]!;
      }
      const du = (yy * bx - xy * by) / determinant;
      const dv = (xx * by - xy * bx) / determinant;
      u -= du;
      v -= dv;
      if (abs(u - firstU) > PATCH || abs(v - firstV) > PATCH) return;
      const now = this.cost(u, v);
      if (now >= this.best) return;
      this.take(u, v, now);
      if (du * du + dv * dv < SMALL) return;
    }
  }

  /** How much the other picture is off with the patch so far away: the mean square, apart from how bright all of it is. */
  private cost(u: number, v: number): number {
    const { off, values, across } = this;
    const { data, width, height } = this.to;
    // What runs off the picture far away is as far away as its edge.
    const px = min(max(this.x + u, -2 * PATCH), width + PATCH);
    const py = min(max(this.y + v, -2 * PATCH), height + PATCH);
    const left = floor(px);
    const top = floor(py);
    const fx = px - left;
    const fy = py - top;
    const w00 = (1 - fx) * (1 - fy);
    const w10 = fx * (1 - fy);
    const w01 = (1 - fx) * fy;
    const w11 = fx * fy;
    for (let i = 0; i <= PATCH; i++) across[i] = min(max(left + i, 0), width - 1);
    let sum = 0;
    for (let j = 0, n = 0; j < PATCH; j++) {
      const one = min(max(top + j, 0), height - 1) * width;
      const next = min(max(top + j + 1, 0), height - 1) * width;
      let upper = data[one + across[0]!]!;
      let lower = data[next + across[0]!]!;
      for (let i = 0; i < PATCH; i++, n++) {
        const column = across[i + 1]!;
        const upperNext = data[one + column]!;
        const lowerNext = data[next + column]!;
        const difference = w00 * upper + w10 * upperNext + w01 * lower + w11 * lowerNext - values[n]!;
        off[n] = difference;
        sum += difference;
        upper = upperNext;
        lower = lowerNext;
      }
    }
    const mean = sum / AREA;
    let squares = 0;
    for (let n = 0; n < AREA; n++) {
      const difference = off[n]! - mean;
      off[n] = difference;
      squares += difference * difference;
    }
    return squares / AREA;
  }
}
