/** A point of a line through measured values: which of them it stands at, and its value. */
export interface FittedKey {
  at: number;
  value: number;
}

/** Joints to each side that a joint's fit depends on. */
const NEAR = 4;
/** Values that the first or the last joint has already. */
interface FixedEnds {
  left?: number;
  right?: number;
}

/** Joints to each side that are fitted anew when one is taken away. */
const ANEW = 8;
/** Values that are looked at in one go; longer rows are cut there. */
const MOST = 4096;

/**
 * The few keys whose straight connections stay within a tolerance of a row of values: the line simplified as by D. Douglas and
 * T. Peucker (“Algorithms for the reduction of the number of points”, 1973), then each key given the value that fits all of
 * them best (least squares of a linear spline), and keys taken away, the least needed first, as long as all stays within.
 *
 * @param values one a step
 * @param tolerance by which a connection may miss a value at most, more than 0
 * @returns keys in order, the first at the first value and the last at the last
 */
export function fitKeys(values: ArrayLike<number>, tolerance: number): FittedKey[] {
  if (values.length === 0) return [];
  if (values.length === 1) return [{ at: 0, value: values[0]! }];
  const keys: FittedKey[] = [];
  for (let from = 0; from < values.length - 1; from += MOST) {
    const to = Math.min(values.length - 1, from + MOST);
    // Two parts meet in a value of the row, so that what one makes of it does not move the other.
    const part = fitPart(values, from, to, tolerance, {
      ...(from > 0 && { left: values[from]! }),
      ...(to < values.length - 1 && { right: values[to]! }),
    });
    keys.push(...(keys.length > 0 ? part.slice(1) : part));
  }
  return keys;
}

/** How far the connections of keys are from a row of values at most. */
export function missOf(values: ArrayLike<number>, keys: readonly FittedKey[]): number {
  let most = 0;
  for (let index = 0; index + 1 < keys.length; index++) {
    most = Math.max(most, missBetween(values, keys[index]!, keys[index + 1]!));
  }
  return most;
}

function missBetween(values: ArrayLike<number>, a: FittedKey, b: FittedKey): number {
  let most = 0;
  for (let at = a.at; at <= b.at; at++) {
    const line = a.value + ((b.value - a.value) * (at - a.at)) / (b.at - a.at);
    most = Math.max(most, Math.abs(line - values[at]!));
  }
  return most;
}

/** The points of a line that is never further than `tolerance` from the values (Douglas and Peucker, by height). */
export function simplified(values: ArrayLike<number>, from: number, to: number, tolerance: number): number[] {
  const kept = [from, to];
  const open: [number, number][] = [[from, to]];
  while (open.length > 0) {
    const [low, high] = open.pop()!;
    let [far, where] = [tolerance, -1];
    for (let at = low + 1; at < high; at++) {
      const line = values[low]! + ((values[high]! - values[low]!) * (at - low)) / (high - low);
      const miss = Math.abs(line - values[at]!);
      if (miss > far) [far, where] = [miss, at];
    }
    if (where < 0) continue;
    kept.push(where);
    open.push([low, where], [where, high]);
  }
  return kept.sort((a, b) => a - b);
}

function fitPart(values: ArrayLike<number>, from: number, to: number, tolerance: number, ends: FixedEnds): FittedKey[] {
  const joints = simplified(values, from, to, tolerance);
  let keys: FittedKey[] = joints.map((at) => ({ at, value: values[at]! }));
  const fitted = leastSquares(values, joints, ends);
  if (missOf(values, fitted) <= tolerance) keys = fitted;
  // What taking a joint away would miss by: only what lies near it changes much, so only that is looked at, and looked at again.
  const without = (index: number): number => {
    const near = joints.slice(Math.max(0, index - NEAR), index + NEAR + 1).filter((at) => at !== joints[index]);
    return missOf(values, leastSquares(values, near));
  };
  const misses = joints.map((_, index) => (index > 0 && index + 1 < joints.length ? without(index) : Infinity));
  for (;;) {
    const index = misses.reduce((best, miss, at) => (miss < misses[best]! ? at : best), 0);
    if (!(misses[index]! <= tolerance)) return keys;
    // Fitted anew around it only: what is farther away hardly changes, and a long row takes no longer for each.
    const [first, last] = [Math.max(0, index - ANEW), Math.min(joints.length - 1, index + ANEW)];
    const fewer = joints.slice(first, last + 1).filter((at) => at !== joints[index]);
    const next = leastSquares(values, fewer, {
      ...ends,
      ...(first > 0 && { left: keys[first]!.value }),
      ...(last + 1 < joints.length && { right: keys[last]!.value }),
    });
    if (missOf(values, next) > tolerance) {
      // It is needed, as long as nothing near it goes.
      misses[index] = Infinity;
      continue;
    }
    joints.splice(index, 1);
    misses.splice(index, 1);
    keys.splice(first, last - first + 1, ...next);
    for (let at = Math.max(1, index - NEAR - 1); at < Math.min(joints.length - 1, index + NEAR + 1); at++) {
      misses[at] = without(at);
    }
  }
}

/** The linear spline with these joints whose values are nearest to a row of values, in the sense of least squares. */
function leastSquares(values: ArrayLike<number>, joints: readonly number[], ends: FixedEnds = {}): FittedKey[] {
  const count = joints.length;
  const [diagonal, beside, wanted] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  for (let index = 0; index + 1 < count; index++) {
    const [a, b] = [joints[index]!, joints[index + 1]!];
    // The last value of a stretch is the first of the next one, and counts there.
    for (let at = a; at < (index + 2 < count ? b : b + 1); at++) {
      const right = (at - a) / (b - a);
      const left = 1 - right;
      diagonal[index]! += left * left;
      diagonal[index + 1]! += right * right;
      beside[index]! += left * right;
      wanted[index]! += left * values[at]!;
      wanted[index + 1]! += right * values[at]!;
    }
  }
  const end = count - 1;
  if (ends.left !== undefined) {
    wanted[1]! -= beside[0]! * ends.left;
    [diagonal[0], beside[0], wanted[0]] = [1, 0, ends.left];
  }
  if (ends.right !== undefined) {
    wanted[end - 1]! -= beside[end - 1]! * ends.right;
    [diagonal[end], beside[end - 1], wanted[end]] = [1, 0, ends.right];
  }
  // Three diagonals: solved forwards and backwards (Thomas).
  for (let index = 1; index < count; index++) {
    const share = beside[index - 1]! / diagonal[index - 1]!;
    diagonal[index]! -= share * beside[index - 1]!;
    wanted[index]! -= share * wanted[index - 1]!;
  }
  const keys: FittedKey[] = joints.map((at) => ({ at, value: 0 }));
  for (let index = count - 1; index >= 0; index--) {
    const next = index + 1 < count ? beside[index]! * keys[index + 1]!.value : 0;
    keys[index]!.value = (wanted[index]! - next) / diagonal[index]!;
  }
  return keys;
}
