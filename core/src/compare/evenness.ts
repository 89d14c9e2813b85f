import { flowBetween } from '../flow/flow';
import { pyramidOf, type Plane } from '../flow/pyramid';

/** Pixels of the pictures in which steps are found: the longer edge. */
export const STEP_EDGE = 384;
/** Level of the pictures at which what moves is followed: half as large, which the three demo clips come out alike by, and sooner. */
const LEVEL = 1;
/** Change of brightness that noise of a camera comes to; less is no movement. */
const NOISE = 8;
/** Share of a picture that changes where one scene ends and another begins. */
const CUT = 0.6;
/** Changed pixels below which nothing moves. */
const FEW = 6;
/** Steps before and after one by which it is told how long it would be if all went smoothly. */
const AROUND = 4;
/** Steps of which a parabola is told. */
const ENOUGH = 4;
/** Pixels, of pictures as long as `STEP_EDGE`, that something must move by on average so that its steps are compared. */
const STILL = 0.05;

/** Finds how far what moves goes from each picture to the next. */
export class StepFinder {
  private before: Plane[] | undefined;

  /**
   * @param picture its brightness, as large as the others
   * @param cut whether another shot begins with it
   * @returns pixels that what moves went by, on average; NaN where it follows nothing: the first, and after a cut
   */
  next(picture: Plane, cut = false): number {
    const { before } = this;
    const now = pyramidOf(picture);
    this.before = now;
    if (!before || cut) return NaN;
    const level = Math.min(LEVEL, now.length - 1);
    const [{ data: old }, { width, height, data }] = [before[level]!, now[level]!];
    let changed = 0;
    for (let n = 0; n < data.length; n++) if (Math.abs(data[n]! - old[n]!) >= NOISE) changed++;
    if (changed < FEW) return 0;
    if (changed > CUT * width * height) return NaN;
    const flow = flowBetween(before, now, level);
    let sum = 0;
    for (let n = 0; n < data.length; n++)
      if (Math.abs(data[n]! - old[n]!) >= NOISE) sum += Math.hypot(flow.x[n]!, flow.y[n]!);
    return (sum / changed) * 2 ** level;
  }
}

/** How evenly something moves. */
export interface Evenness {
  /** How far each step is from the smooth one, in the unit of the steps; NaN where there is none. */
  off: Float32Array;
  /** The mean step. */
  step: number;
  /** The mean of `off` as a share of the mean step: 0 where all is even; undefined where nothing moves. */
  uneven: number | undefined;
}

/** The value at 0 of the parabola that comes nearest to some points, by least squares; of few points their mean. */
function smoothAt(points: readonly (readonly [x: number, y: number])[]): number {
  const sums = [0, 0, 0, 0, 0];
  const right = [0, 0, 0];
  for (const [x, y] of points) {
    for (let power = 0; power < 5; power++) sums[power]! += x ** power;
    for (let power = 0; power < 3; power++) right[power]! += y * x ** power;
  }
  const [n, a, b, c, d] = sums as [number, number, number, number, number];
  const [r, s, t] = right as [number, number, number];
  const whole = n * (b * d - c * c) - a * (a * d - b * c) + b * (a * c - b * b);
  if (points.length < ENOUGH || Math.abs(whole) < 1e-9) return r / n;
  return (r * (b * d - c * c) - a * (s * d - c * t) + b * (s * c - b * t)) / whole;
}

/**
 * How far each step is from the smooth one: what a parabola through the steps around it says (A. Savitzky and M. J. E. Golay, “Smoothing
 * and Differentiation of Data by Simplified Least Squares Procedures”, 1964), over no cut.
 *
 * @param steps lengths; NaN where one follows nothing
 */
export function evennessOf(steps: Float32Array): Evenness {
  const off = new Float32Array(steps.length).fill(NaN);
  let [sum, count, missed] = [0, 0, 0];
  for (let n = 0; n < steps.length; n++) {
    if (Number.isNaN(steps[n])) continue;
    let [from, to] = [n, n];
    while (from > 0 && n - from < AROUND && !Number.isNaN(steps[from - 1])) from--;
    while (to + 1 < steps.length && to - n < AROUND && !Number.isNaN(steps[to + 1])) to++;
    const points = Array.from({ length: to - from + 1 }, (_, i) => [from + i - n, steps[from + i]!] as const);
    off[n] = Math.abs(steps[n]! - smoothAt(points));
    sum += steps[n]!;
    missed += off[n]!;
    count++;
  }
  const step = count > 0 ? sum / count : 0;
  return { off, step, uneven: step < STILL ? undefined : missed / sum };
}
