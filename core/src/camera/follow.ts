import type { Plane } from '../flow/pyramid';
import { PATCH, type Feature } from './features';

const SIDE = 2 * PATCH + 1;
const COUNT = SIDE * SIDE;
/** Steps at most, and pixels below which a step is the last. */
const STEPS = 8;
const ENOUGH = 0.01;

const seen = new Float32Array(COUNT);

/** How a patch lies in another picture: turned and grown, `x' = a·x + c·y`, `y' = b·x + d·y`. */
export interface Lie {
  a: number;
  b: number;
  c: number;
  d: number;
}

/**
 * Follows a feature to another picture: the place at which what is there differs least from it, whatever the light (Lucas and Kanade 1981;
 * inverse compositional, Baker and Matthews 2004), from a place nearby.
 *
 * @param at the place, in pixels; it is moved
 * @param lie how the feature is turned there
 * @returns how alike they are there, −1 to 1; nothing where it leaves the picture
 */
export function followed(
  { width, height, data }: Plane,
  { values, right, down, xx, xy, yy, length }: Feature,
  at: { x: number; y: number },
  { a, b, c, d }: Lie,
): number | undefined {
  const det = xx * yy - xy * xy;
  const [reachX, reachY] = [PATCH * (Math.abs(a) + Math.abs(c)), PATCH * (Math.abs(b) + Math.abs(d))];
  let alike = -1;
  for (let step = 0; step < STEPS; step++) {
    if (!(at.x - reachX >= 0 && at.y - reachY >= 0 && at.x + reachX < width - 1 && at.y + reachY < height - 1))
      return undefined;
    let mean = 0;
    for (let j = -PATCH, n = 0; j <= PATCH; j++) {
      let x = at.x - PATCH * a + j * c;
      let y = at.y - PATCH * b + j * d;
      for (let i = 0; i < SIDE; i++, n++, x += a, y += b) {
        const [left, top] = [x | 0, y | 0];
        const [fx, fy] = [x - left, y - top];
        const place = top * width + left;
        const upper = data[place]! + (data[place + 1]! - data[place]!) * fx;
        const lower = data[place + width]! + (data[place + width + 1]! - data[place + width]!) * fx;
        const value = upper + (lower - upper) * fy;
        seen[n] = value;
        mean += value;
      }
    }
    mean /= COUNT;
    let [both, square, gx, gy] = [0, 0, 0, 0];
    for (let n = 0; n < COUNT; n++) {
      const value = seen[n]! - mean;
      const off = value - values[n]!;
      both += value * values[n]!;
      square += value * value;
      gx += right[n]! * off;
      gy += down[n]! * off;
    }
    alike = both / (Math.sqrt(square) * length + 1e-9);
    const [u, v] = [(yy * gx - xy * gy) / det, (xx * gy - xy * gx) / det];
    at.x -= a * u + c * v;
    at.y -= b * u + d * v;
    if (u * u + v * v < ENOUGH * ENOUGH) break;
  }
  return alike;
}
