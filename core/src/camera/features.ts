import type { Plane } from '../flow/pyramid';

/** Pixels of a patch to each side of its middle, and of the window in which a corner is told. */
export const PATCH = 6;
const WINDOW = 3;
/** Corners of a picture: one in each cell of a grid at most. */
const COLUMNS = 20;
const ROWS = 12;
/** The least that brightness must change across a corner, each way, as a mean square a pixel; less is noise. */
const LEAST_CHANGE = 3;

/** A place that can be found again: a corner, and what is around it. */
export interface Feature {
  x: number;
  y: number;
  /** Brightness less its mean, and how it changes across and down, in rows of `2 · PATCH + 1`. */
  values: Float32Array;
  right: Float32Array;
  down: Float32Array;
  /** Half of the sums of changes, as they are solved for: across², both, down². */
  xx: number;
  xy: number;
  yy: number;
  /** Length of `values`. */
  length: number;
}

/** The best corner of each cell of a grid (Shi and Tomasi 1994: the lesser eigenvalue of how brightness changes around it). */
export function cornersIn(plane: Plane): { x: number; y: number }[] {
  const { width, height } = plane;
  const scores = cornerScores(plane);
  const edge = PATCH + 3;
  const found: { x: number; y: number }[] = [];
  for (let row = 0; row < ROWS; row++) {
    for (let column = 0; column < COLUMNS; column++) {
      const [x0, x1] = [column, column + 1].map((n) => Math.round(edge + ((width - 2 * edge) * n) / COLUMNS));
      const [y0, y1] = [row, row + 1].map((n) => Math.round(edge + ((height - 2 * edge) * n) / ROWS));
      let best = LEAST_CHANGE;
      let place: { x: number; y: number } | undefined;
      for (let y = y0!; y < y1!; y++) {
        for (let x = x0!; x < x1!; x++) {
          const score = scores[y * width + x]!;
          if (score > best) {
            best = score;
            place = { x, y };
          }
        }
      }
      if (place) found.push(place);
    }
  }
  return found;
}

/** How much brightness changes around each pixel in the way in which it changes least, as a mean square a pixel. */
function cornerScores({ width, height, data }: Plane): Float32Array {
  const sums = [0, 1, 2].map(() => new Float64Array((width + 1) * (height + 1)));
  const [xx, xy, yy] = sums as [Float64Array, Float64Array, Float64Array];
  const line = width + 1;
  for (let y = 0; y < height; y++) {
    let [a, b, c] = [0, 0, 0];
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const inside = x > 0 && y > 0 && x < width - 1 && y < height - 1;
      const gx = inside ? (data[at + 1]! - data[at - 1]!) / 2 : 0;
      const gy = inside ? (data[at + width]! - data[at - width]!) / 2 : 0;
      a += gx * gx;
      b += gx * gy;
      c += gy * gy;
      const to = (y + 1) * line + x + 1;
      xx[to] = xx[to - line]! + a;
      xy[to] = xy[to - line]! + b;
      yy[to] = yy[to - line]! + c;
    }
  }
  const scores = new Float32Array(width * height);
  const count = (2 * WINDOW + 1) ** 2;
  for (let y = WINDOW; y < height - WINDOW; y++) {
    for (let x = WINDOW; x < width - WINDOW; x++) {
      const low = (y - WINDOW) * line + x - WINDOW;
      const high = low + (2 * WINDOW + 1) * line;
      const of = (sum: Float64Array): number =>
        (sum[high + 2 * WINDOW + 1]! - sum[high]! - sum[low + 2 * WINDOW + 1]! + sum[low]!) / count;
      const [a, b, c] = [of(xx), of(xy), of(yy)];
      scores[y * width + x] = (a + c) / 2 - Math.sqrt(((a - c) / 2) ** 2 + b * b);
    }
  }
  return scores;
}

/** What is around a place of a plane, as it is looked for in others; undefined too near an edge, or where nothing is to be seen. */
export function featureAt({ width, height, data }: Plane, x: number, y: number): Feature | undefined {
  const [left, top] = [Math.round(x) - PATCH, Math.round(y) - PATCH];
  const side = 2 * PATCH + 1;
  if (left < 1 || top < 1 || left + side >= width - 1 || top + side >= height - 1) return undefined;
  const count = side * side;
  const [values, right, down] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  let [mean, xx, xy, yy] = [0, 0, 0, 0];
  for (let j = 0, n = 0; j < side; j++) {
    for (let i = 0, at = (top + j) * width + left; i < side; i++, n++, at++) {
      values[n] = data[at]!;
      mean += data[at]!;
      right[n] = (data[at + 1]! - data[at - 1]!) / 2;
      down[n] = (data[at + width]! - data[at - width]!) / 2;
    }
  }
  mean /= count;
  // What is told by differences from the mean is told of changes without their means.
  for (const changes of [right, down]) {
    const middle = changes.reduce((sum, value) => sum + value, 0) / count;
    for (let n = 0; n < count; n++) changes[n]! -= middle;
  }
  let square = 0;
  for (let n = 0; n < count; n++) {
    values[n]! -= mean;
    square += values[n]! * values[n]!;
    xx += right[n]! * right[n]!;
    xy += right[n]! * down[n]!;
    yy += down[n]! * down[n]!;
  }
  if (!(xx * yy - xy * xy > 1e-3 * xx * yy) || square === 0) return undefined;
  return { x: Math.round(x), y: Math.round(y), values, right, down, xx, xy, yy, length: Math.sqrt(square) };
}
