import type { Plane } from '../flow/pyramid';

const { abs } = Math;

/** Pixels each way in which a shift is looked for in the smallest pictures, and around it in larger ones. */
const REACH = 5;
const CLOSE = 2;

/**
 * By how many whole pixels a small picture lies aside of another one: where they differ least, on average.
 *
 * @param before, @param after the same pictures, smaller and smaller by halves; what is told is of the first
 */
export function coarseShift(before: readonly Plane[], after: readonly Plane[]): { x: number; y: number } {
  return before.reduceRight(
    ({ x, y }, plane, level) =>
      level === before.length - 1
        ? nearest(plane, after[level]!, { x: 0, y: 0 }, REACH)
        : nearest(plane, after[level]!, { x: 2 * x, y: 2 * y }, CLOSE),
    { x: 0, y: 0 },
  );
}

function nearest(
  before: Plane,
  after: Plane,
  around: { x: number; y: number },
  reach: number,
): { x: number; y: number } {
  const { width, height } = before;
  let best = around;
  let least = Infinity;
  for (let y = around.y - reach; y <= around.y + reach; y++) {
    for (let x = around.x - reach; x <= around.x + reach; x++) {
      const [x0, x1] = [Math.max(0, -x), Math.min(width, width - x)];
      const [y0, y1] = [Math.max(0, -y), Math.min(height, height - y)];
      // They must lie on each other for the most part.
      if (x1 - x0 < width / 2 || y1 - y0 < height / 2) continue;
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
