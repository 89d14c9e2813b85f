/**
 * Coefficients of 3·x1·u(1−u)² + 3·x2·u²(1−u) + u³ as a1·u + a2·u² + a3·u³.
 */
export function timeCoefficients(x1: number, x2: number): [number, number, number] {
  return [3 * x1, 3 * x2 - 6 * x1, 1 + 3 * x1 - 3 * x2];
}

/** Coefficients of a cubic Bézier's value, lowest power first. */
export function valueCoefficients(y: readonly [number, number, number, number]): [number, number, number, number] {
  return [y[0], 3 * (y[1] - y[0]), 3 * (y[0] - 2 * y[1] + y[2]), y[3] - 3 * y[2] + 3 * y[1] - y[0]];
}

/** Half-width within which handles count as the linear pair (1/3, 2/3): files write them with 16 digits. */
const LINEAR_TOLERANCE = 1e-12;

/** Whether time runs evenly in the parameter, so that u is the time itself. */
export function isLinearTime(x1: number, x2: number): boolean {
  return Math.abs(x1 - 1 / 3) < LINEAR_TOLERANCE && Math.abs(x2 - 2 / 3) < LINEAR_TOLERANCE;
}

/** Largest error of a parameter found by `solveTime`, when a step is taken for the last one. */
const TOLERANCE = 1e-15;

/**
 * The parameter u at which a1·u + a2·u² + a3·u³ = s, for a time polynomial that rises from 0 to 1.
 *
 * Halley's method (its error is cubed at every step) inside a bracket that every step narrows; where it would leave the
 * bracket (a flat end, as with x1 = 0 or x2 = 1) the bracket is halved instead, so the root is always found, to
 * 1e-13. What a step of `d` leaves is about `((f″/2f′)² + f‴/6f′) · d³`; a step that leaves nothing is the last.
 *
 * @param s 0…1
 */
export function solveTime(a1: number, a2: number, a3: number, s: number): number {
  if (s <= 0) return 0;
  if (s >= 1) return 1;
  let low = 0;
  let high = 1;
  let u = s;
  for (let round = 0; round < 100; round++) {
    const error = ((a3 * u + a2) * u + a1) * u - s;
    if (error === 0) return u;
    if (error > 0) high = u;
    else low = u;
    const slope = (3 * a3 * u + 2 * a2) * u + a1;
    const bend = 3 * a3 * u + a2;
    const step = (error * slope) / (slope * slope - error * bend);
    const next = u - step;
    // Asked before the bracket is: at the root, the last step may fall on the bracket's own edge.
    const left = Math.abs(step * step * step) * (Math.abs(a3) * slope + bend * bend);
    if (left < TOLERANCE * slope * slope) return next < 0 ? 0 : next > 1 ? 1 : next;
    // The negated test also catches NaN from a slope of zero.
    u = next > low && next < high ? next : (low + high) / 2;
    if (high - low < Number.EPSILON * high) return u;
  }
  return u;
}

/**
 * Splits a cubic at `u` by de Casteljau's construction.
 *
 * @returns the control values of the left and of the right part, four each
 */
export function splitCubic(
  p: readonly [number, number, number, number],
  u: number,
): [[number, number, number, number], [number, number, number, number]] {
  const mix = (a: number, b: number): number => a + (b - a) * u;
  const [ab, bc, cd] = [mix(p[0], p[1]), mix(p[1], p[2]), mix(p[2], p[3])];
  const [abc, bcd] = [mix(ab, bc), mix(bc, cd)];
  const middle = mix(abc, bcd);
  return [
    [p[0], ab, abc, middle],
    [middle, bcd, cd, p[3]],
  ];
}

/** Real roots in (0, 1) of c0 + c1·u + c2·u² + c3·u³, rising, each once. */
export function rootsInUnit(c: readonly [number, number, number, number]): number[] {
  const at = (u: number): number => ((c[3] * u + c[2]) * u + c[1]) * u + c[0];
  const turns = quadraticRoots(c[1], 2 * c[2], 3 * c[3]).filter((u) => u > 0 && u < 1);
  const stops = [0, ...turns.sort((a, b) => a - b), 1];
  const roots: number[] = [];
  for (let index = 0; index + 1 < stops.length; index++) {
    const root = bracketedRoot(at, stops[index]!, stops[index + 1]!);
    if (root !== undefined && root > 0 && root < 1 && root !== roots.at(-1)) roots.push(root);
  }
  return roots;
}

/** Real roots of c + b·u + a·u², in the form that loses no digits (Numerical Recipes, section 5.6). */
function quadraticRoots(c: number, b: number, a: number): number[] {
  if (a === 0) return b === 0 ? [] : [-c / b];
  const under = b * b - 4 * a * c;
  if (under < 0) return [];
  const q = -(b + (b < 0 ? -1 : 1) * Math.sqrt(under)) / 2;
  return q === 0 ? [0] : [q / a, c / q];
}

/**
 * The root of a monotone function between two arguments by bisection down to neighbouring doubles.
 *
 * @returns undefined where both ends have the same sign; an end that is exactly zero is the root
 */
export function bracketedRoot(at: (u: number) => number, from: number, to: number): number | undefined {
  const start = at(from);
  const end = at(to);
  if (start === 0) return from;
  if (end === 0) return to;
  if (start > 0 === end > 0) return undefined;
  let [low, high] = [from, to];
  for (let round = 0; round < 80; round++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (at(middle) > 0 === start > 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
