import type { Plane } from '../flow/pyramid';

/** Pixels each way in which a shift is looked for, and the least share of a side on which two pictures must lie on each other. */
const REACH = 8;
const { abs } = Math;

/** By how many whole pixels a small picture lies aside of another one: where they differ least, on average. */
export function coarseShift(before: Plane, after: Plane): { x: number; y: number } {
  const { width, height } = before;
  const [reachX, reachY] = [Math.min(REACH, width >> 2), Math.min(REACH, height >> 2)];
  let best = { x: 0, y: 0 };
  let least = Infinity;
  for (let y = -reachY; y <= reachY; y++) {
    for (let x = -reachX; x <= reachX; x++) {
      const [x0, x1] = [Math.max(0, -x), Math.min(width, width - x)];
      const [y0, y1] = [Math.max(0, -y), Math.min(height, height - y)];
      let sum = 0;
      for (let row = y0; row < y1; row++) {
        let from = row * width + x0;
        let to = (row + y) * width + x0 + x;
        for (let column = x0; column < x1; column++) sum += abs(before.data[from++]! - after.data[to++]!);
      }
      // Of two that are as like, the nearer.
      const mean = sum / ((x1 - x0) * (y1 - y0)) + 1e-3 * (x * x + y * y);
      if (mean < least) [best, least] = [{ x, y }, mean];
    }
  }
  return best;
}
