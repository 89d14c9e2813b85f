/**
 * Slopes for a cubic through points that never overshoots them: where the data rise, so does the curve.
 *
 * Fritsch and Carlson, "Monotone Piecewise Cubic Interpolation", SIAM J. Numer. Anal. 17 (1980): the mean of the two
 * neighbouring secants, brought into the circle α² + β² ≤ 9. At an extreme of the data the slope is 0.
 *
 * @param x rising
 * @param y as many as `x`, at least two
 * @returns dy/dx at each point
 */
export function monotoneSlopes(x: readonly number[], y: readonly number[]): number[] {
  const last = x.length - 1;
  const secants = Array.from({ length: last }, (_, i) => (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!));
  const slopes = x.map((_, i) => {
    const [before, after] = [secants[i - 1] ?? secants[0]!, secants[i] ?? secants[last - 1]!];
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  // A slope that is brought down for one interval may take the other one beside it out of the region of monotone cubics, unless
  // that one is in the circle: so once more, until none is. Slopes only fall, and what is in the circle stays there.
  for (let changed = true; changed;) changed = bringDown(slopes, secants);
  return slopes;
}

/** Brings slopes that overshoot into the circle; returns whether there were any. */
function bringDown(slopes: number[], secants: readonly number[]): boolean {
  let changed = false;
  secants.forEach((secant, i) => {
    if (secant === 0) {
      slopes[i] = slopes[i + 1] = 0;
      return;
    }
    const [alpha, beta] = [slopes[i]! / secant, slopes[i + 1]! / secant];
    // Inside this region the cubic is monotone without the circle's help (the paper's φ ≥ 0).
    const [a, b] = [2 * alpha + beta - 3, alpha + 2 * beta - 3];
    if (!(a > 0 && b > 0 && alpha * (a + b) < a * a)) return;
    const shrink = 3 / Math.hypot(alpha, beta);
    // In the circle already, to within rounding.
    if (shrink >= 1 - 1e-12) return;
    slopes[i] = shrink * alpha * secant;
    slopes[i + 1] = shrink * beta * secant;
    changed = true;
  });
  return changed;
}
