import type { Movement } from './movement';
import type { Plane } from './pyramid';

// Looked up once: the loops below run for every pixel.
const { abs, floor, max, min } = Math;

/** Pixels of the grid by which movements beside each other must differ to lie at an edge between two things. */
const EDGE = 1;
/** Steps of 255 that two places of an edge may differ before they count half. */
const EVEN = 8;
/** Least part of each thing at an edge. */
const LEAST = 0.01;
/** Steps of 255 by which two places may differ that show the same thing; by more, the less they are believed. */
const ALIKE = 24;
const UNLIKE = 96;

function valueAt(data: Uint8Array, width: number, height: number, x: number, y: number): number {
  const px = min(max(x, 0), width - 1);
  const py = min(max(y, 0), height - 1);
  const left = floor(px);
  const top = floor(py);
  const a = px - left;
  const b = py - top;
  const n = top * width + left;
  const right = left + 1 < width ? 1 : 0;
  const below = top + 1 < height ? width : 0;
  const upper = data[n]! + a * (data[n + right]! - data[n]!);
  const lower = data[n + below]! + a * (data[n + below + right]! - data[n + below]!);
  return upper + b * (lower - upper);
}

/** How much alike the two places are of what moves as a pixel of the grid does; 1 / EVEN at most. */
function likeness(first: Plane, second: Plane, move: Movement, m: number, x: number, y: number): number {
  const { width, height } = first;
  const wide = width / move.width;
  const high = height / move.height;
  const there = valueAt(first.data, width, height, x + wide * move.firstX[m]!, y + high * move.firstY[m]!);
  const here = valueAt(second.data, width, height, x + wide * move.secondX[m]!, y + high * move.secondY[m]!);
  return 1 / (EVEN + abs(there - here));
}

/**
 * Makes a plane of the picture at a moment between two: what moves, from where it lies in both, as far as it is seen there. Where
 * both places are believed and show different things, the mean of both pictures as they stand.
 *
 * @param share how far the moment is from the first to the second, more than 0 and less than 1
 * @param out as large as the planes
 * @returns the share of it that was not believed, 0 to 1
 */
export function warpPlane(first: Plane, second: Plane, move: Movement, share: number, out: Uint8Array): number {
  const { width, height, data: one } = first;
  const { data: two } = second;
  const { firstX, firstY, secondX, secondY, firstPart, secondPart, width: columns, height: rows } = move;
  const across = columns / width;
  const down = rows / height;
  // A pixel of the grid is so many of the plane.
  const wide = width / columns;
  const high = height / rows;
  let doubts = 0;
  for (let y = 0, n = 0; y < height; y++) {
    const gy = min(max((y + 0.5) * down - 0.5, 0), rows - 1);
    const top = floor(gy);
    const b = gy - top;
    const upper = top * columns;
    const lower = top + 1 < rows ? upper + columns : upper;
    for (let x = 0; x < width; x++, n++) {
      const gx = min(max((x + 0.5) * across - 0.5, 0), columns - 1);
      const left = floor(gx);
      const a = gx - left;
      const right = left + 1 < columns ? left + 1 : left;
      const p = upper + left;
      const q = upper + right;
      const r = lower + left;
      const s = lower + right;
      let wp = (1 - a) * (1 - b);
      let wq = a * (1 - b);
      let wr = (1 - a) * b;
      let ws = a * b;
      const u0 = firstX[p]!;
      const u1 = firstX[q]!;
      const u2 = firstX[r]!;
      const u3 = firstX[s]!;
      const v0 = firstY[p]!;
      const v1 = firstY[q]!;
      const v2 = firstY[r]!;
      const v3 = firstY[s]!;
      const spread = max(u0, u1, u2, u3) - min(u0, u1, u2, u3) + max(v0, v1, v2, v3) - min(v0, v1, v2, v3);
      if (spread > EDGE * share) {
        // At an edge one of two things is here rather than their mean: that whose places look more alike.
        wp = (wp + LEAST) * likeness(first, second, move, p, x, y);
        wq = (wq + LEAST) * likeness(first, second, move, q, x, y);
        wr = (wr + LEAST) * likeness(first, second, move, r, x, y);
        ws = (ws + LEAST) * likeness(first, second, move, s, x, y);
        const sum = wp + wq + wr + ws;
        wp /= sum;
        wq /= sum;
        wr /= sum;
        ws /= sum;
      }
      const ax = x + wide * (u0 * wp + u1 * wq + u2 * wr + u3 * ws);
      const ay = y + high * (v0 * wp + v1 * wq + v2 * wr + v3 * ws);
      const bx = x + wide * (secondX[p]! * wp + secondX[q]! * wq + secondX[r]! * wr + secondX[s]! * ws);
      const by = y + high * (secondY[p]! * wp + secondY[q]! * wq + secondY[r]! * wr + secondY[s]! * ws);
      const wa = firstPart[p]! * wp + firstPart[q]! * wq + firstPart[r]! * wr + firstPart[s]! * ws;
      const wb = secondPart[p]! * wp + secondPart[q]! * wq + secondPart[r]! * wr + secondPart[s]! * ws;
      const va = valueAt(one, width, height, ax, ay);
      const vb = valueAt(two, width, height, bx, by);
      let made = (wa * va + wb * vb) / (wa + wb);
      const off = abs(va - vb);
      if (off > ALIKE) {
        const both = min(1, wa / (1 - share), wb / share);
        const doubt = both * min(1, (off - ALIKE) / (UNLIKE - ALIKE));
        doubts += doubt;
        made += doubt * ((1 - share) * one[n]! + share * two[n]! - made);
      }
      out[n] = made + 0.5;
    }
  }
  return doubts / (width * height);
}
