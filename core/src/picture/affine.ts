/** A picture's size in pixels, as displayed. */
export interface Size {
  width: number;
  height: number;
}

/** Pixels; `y` counts downwards. */
export interface Point {
  x: number;
  y: number;
}

/** An affine map of the plane, `x' = a·x + c·y + e`, `y' = b·x + d·y + f`: the order of the HTML canvas' `setTransform`. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const identity: Affine = [1, 0, 0, 1, 0, 0];

/** The map that first does `inner`, then `outer`. */
export function after(outer: Affine, inner: Affine): Affine {
  const [a, b, c, d, e, f] = outer;
  const [p, q, r, s, t, u] = inner;
  return [a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f];
}

export function mapPoint([a, b, c, d, e, f]: Affine, { x, y }: Point): Point {
  return { x: a * x + c * y + e, y: b * x + d * y + f };
}

/** The map back. Undefined where the plane is pressed flat. */
export function inverse([a, b, c, d, e, f]: Affine): Affine | undefined {
  const det = a * d - b * c;
  if (det === 0) return undefined;
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}
