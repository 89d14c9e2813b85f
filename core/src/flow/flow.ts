import type { Plane } from './pyramid';
import { PATCH, patchAt, searchPatches, type Patches } from './search';

// Looked up once: the loops below run for every pixel.
const { abs, floor, max, min } = Math;

/** Where each pixel of one picture has gone in another: pixels of its size to the right and down. */
export interface Flow {
  width: number;
  height: number;
  x: Float32Array;
  y: Float32Array;
}

const noFlow = (width: number, height: number): Flow => ({
  ...{ width, height, x: new Float32Array(width * height), y: new Float32Array(width * height) },
});

/** A row or column of numbers as another one, twice as large, is made of it: the two nearest, and how much the second counts. */
function halves(index: number, last: number): { one: number; next: number; part: number } {
  const at = min(max((index + 0.5) / 2 - 0.5, 0), last);
  const one = floor(at);
  return { one, next: min(one + 1, last), part: at - one };
}

/** A flow for a picture that is twice as large. */
function enlarged(flow: Flow, width: number, height: number): Flow {
  const out = noFlow(width, height);
  const columns = Array.from({ length: width }, (_, x) => halves(x, flow.width - 1));
  const left = Int32Array.from(columns, ({ one }) => one);
  const right = Int32Array.from(columns, ({ next }) => next);
  const parts = Float32Array.from(columns, ({ part }) => part);
  for (let y = 0, n = 0; y < height; y++) {
    const { one, next, part } = halves(y, flow.height - 1);
    const upper = one * flow.width;
    const lower = next * flow.width;
    for (let x = 0; x < width; x++, n++) {
      const a = parts[x]!;
      const l = left[x]!;
      const r = right[x]!;
      out.x[n] =
        2 *
        ((flow.x[upper + l]! * (1 - a) + flow.x[upper + r]! * a) * (1 - part) +
          (flow.x[lower + l]! * (1 - a) + flow.x[lower + r]! * a) * part);
      out.y[n] =
        2 *
        ((flow.y[upper + l]! * (1 - a) + flow.y[upper + r]! * a) * (1 - part) +
          (flow.y[lower + l]! * (1 - a) + flow.y[lower + r]! * a) * part);
    }
  }
  return out;
}

/** Each pixel's flow, from all patches it lies in; the more it looks alike in both pictures by one, the more that counts. */
function densified(from: Plane, to: Plane, patches: Patches): Flow {
  const { width, height } = from;
  const flow = noFlow(width, height);
  const weights = new Float32Array(width * height);
  for (let row = 0, index = 0; row < patches.down; row++) {
    const top = patchAt(row, height);
    for (let column = 0; column < patches.across; column++, index++) {
      const left = patchAt(column, width);
      const u = patches.x[index]!;
      const v = patches.y[index]!;
      const dx = floor(u);
      const dy = floor(v);
      const fx = u - dx;
      const fy = v - dy;
      const right = min(left + PATCH, width);
      for (let y = top, bottom = min(top + PATCH, height); y < bottom; y++) {
        const one = min(max(y + dy, 0), height - 1) * width;
        const next = min(max(y + dy + 1, 0), height - 1) * width;
        for (let x = left; x < right; x++) {
          const here = min(max(x + dx, 0), width - 1);
          const beside = min(max(x + dx + 1, 0), width - 1);
          const upper = to.data[one + here]! * (1 - fx) + to.data[one + beside]! * fx;
          const lower = to.data[next + here]! * (1 - fx) + to.data[next + beside]! * fx;
          const n = y * width + x;
          const weight = 1 / max(1, abs(upper * (1 - fy) + lower * fy - from.data[n]!));
          flow.x[n] = flow.x[n]! + u * weight;
          flow.y[n] = flow.y[n]! + v * weight;
          weights[n] = weights[n]! + weight;
        }
      }
    }
  }
  for (let n = 0; n < weights.length; n++) {
    flow.x[n] = flow.x[n]! / weights[n]!;
    flow.y[n] = flow.y[n]! / weights[n]!;
  }
  return flow;
}

/**
 * Where each pixel of a picture has gone in another, found from coarse to fine.
 *
 * @param from levels of a picture, `to` as many of the other's
 * @param finest level at which it ends: the flow is as large as that one, and counted in its pixels
 */
export function flowBetween(from: readonly Plane[], to: readonly Plane[], finest: number): Flow {
  const coarsest = from[from.length - 1]!;
  let flow = noFlow(coarsest.width, coarsest.height);
  for (let level = from.length - 1; level >= finest; level--) {
    const [a, b] = [from[level]!, to[level]!];
    if (level < from.length - 1) flow = enlarged(flow, a.width, a.height);
    flow = densified(a, b, searchPatches(a, b, level > finest, flow.x, flow.y));
  }
  return flow;
}
