import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import type { Row, Unknown } from './system';

/** The outcome of `leastChange`; `misses` are the rows' remaining errors, in source frames. */
interface Solution {
  values: Float64Array;
  misses: number[];
  solved: boolean;
}

/** Rows must be met to this many source frames. */
const TOLERANCE = 1e-10;
/** Steps go on to here, as long as they gain anything: the answer is then as exact as its numbers. */
const POLISHED = 1e-15;
const MOST_STEPS = 200;
/**
 * Share of the identity added to each step's matrix (Levenberg's way): where nothing free is left in a row, it lets the
 * multiplier run until something is; elsewhere it costs nothing that shows.
 */
const LEAST_RELAX = 1e-9;

/**
 * The values nearest to what was drawn, `min Σ weight · (v − value)²`, that meet every row and stay in their bounds.
 *
 * By Newton's method on the dual with its active set: at multipliers λ each value is `value + (Aᵀλ) / weight`, put back
 * into its bounds, and only the values off their bounds take part in the next step (Hintermüller, Ito and Kunisch,
 * "The primal-dual active set strategy as a semismooth Newton method", SIAM J. Optim. 13, 2002). The dual function is
 * convex and smooth, so a line search keeps every step downhill; with no bound active one step is the answer.
 */
export function leastChange(unknowns: readonly Unknown[], rows: readonly Row[]): Solution {
  const size = rows.length;
  const lambda = new Float64Array(size);
  const entries = byUnknown(unknowns.length, rows);
  const scale = rows.reduce((most, { wanted }) => Math.max(most, Math.abs(wanted)), 1);
  let state = evaluate(unknowns, rows, entries, lambda);
  let tried = 0;
  while (worst(state.misses) > POLISHED * scale && tried++ < MOST_STEPS) {
    let next: State | undefined;
    for (let relax = LEAST_RELAX; !next && relax <= 1; relax *= 100) {
      next = downhill(unknowns, rows, entries, lambda, state, newtonStep(unknowns, entries, state, size, relax));
    }
    if (!next) break;
    state = next;
  }
  return { values: state.values, misses: state.misses, solved: worst(state.misses) <= TOLERANCE * scale };
}

/** Goes along a step as far as the dual falls; moves `lambda` there. Undefined where it does not fall at all. */
function downhill(
  unknowns: readonly Unknown[],
  rows: readonly Row[],
  entries: readonly Entry[][],
  lambda: Float64Array,
  state: State,
  step: readonly number[],
): State | undefined {
  const slope = step.reduce((sum, value, i) => sum + value * state.misses[i]!, 0);
  for (let length = 1; length > 1e-14; length /= 2) {
    const at = lambda.map((value, i) => value - length * step[i]!);
    const next = evaluate(unknowns, rows, entries, at);
    // Close to the answer the dual's own rounding hides what is gained; then the misses tell.
    const level = Math.abs(next.dual - state.dual) <= 1e-12 * Math.max(1, Math.abs(state.dual));
    const falls = next.dual <= state.dual - 1e-4 * length * slope;
    if (falls || (level && worst(next.misses) < worst(state.misses))) {
      lambda.set(at);
      return next;
    }
  }
  return undefined;
}

interface Entry {
  row: number;
  coefficient: number;
}

interface State {
  values: Float64Array;
  free: Uint8Array;
  misses: number[];
  dual: number;
}

const worst = (misses: readonly number[]): number => misses.reduce((most, miss) => Math.max(most, Math.abs(miss)), 0);

function byUnknown(count: number, rows: readonly Row[]): Entry[][] {
  const entries: Entry[][] = Array.from({ length: count }, () => []);
  rows.forEach(({ terms }, row) => {
    for (const [unknown, coefficient] of terms) entries[unknown]!.push({ row, coefficient });
  });
  return entries;
}

function evaluate(
  unknowns: readonly Unknown[],
  rows: readonly Row[],
  entries: readonly Entry[][],
  lambda: Float64Array,
): State {
  const values = new Float64Array(unknowns.length);
  const free = new Uint8Array(unknowns.length);
  const misses = rows.map(({ wanted }) => -wanted);
  let dual = -rows.reduce((sum, { wanted }, row) => sum + wanted * lambda[row]!, 0);
  unknowns.forEach(({ value, weight, low, high }, k) => {
    const pull = entries[k]!.reduce((sum, { row, coefficient }) => sum + coefficient * lambda[row]!, 0);
    const wish = value + pull / weight;
    const got = Math.min(high, Math.max(low, wish));
    values[k] = got;
    free[k] = got === wish ? 1 : 0;
    dual += pull * got - (weight * (got - value) ** 2) / 2;
    for (const { row, coefficient } of entries[k]!) misses[row]! += coefficient * got;
  });
  return { values, free, misses, dual };
}

function newtonStep(
  unknowns: readonly Unknown[],
  entries: readonly Entry[][],
  { free, misses }: State,
  size: number,
  relax: number,
): number[] {
  const matrix = Array.from({ length: size }, () => new Float64Array(size));
  unknowns.forEach(({ weight }, k) => {
    if (!free[k]) return;
    for (const a of entries[k]!) {
      for (const b of entries[k]!) matrix[a.row]![b.row]! += (a.coefficient * b.coefficient) / weight;
    }
  });
  const most = matrix.reduce((most, row, i) => Math.max(most, row[i]!), 1e-300);
  matrix.forEach((row, i) => (row[i]! += relax * most));
  return new CholeskyDecomposition(new Matrix(matrix)).solve(Matrix.columnVector(misses)).to1DArray();
}
