import type { Point, Size } from './affine';

/**
 * A map of the plane that keeps lines straight, `x' = (a·x + c·y + e) / (g·x + h·y + 1)`, `y' = (b·x + d·y + f) / (g·x + h·y + 1)`: an
 * affine map in the order of the HTML canvas' `setTransform`, and two numbers of perspective.
 */
export type PlaneMap = readonly [a: number, b: number, c: number, d: number, e: number, f: number, g: number, h: number]; // prettier-ignore

/** Numbers of a map. */
export const MAP_NUMBERS = 8;

export const planeIdentity: PlaneMap = [1, 0, 0, 1, 0, 0, 0, 0];

/** The map that first does `inner`, then `outer`. */
export function planeAfter(outer: PlaneMap, inner: PlaneMap): PlaneMap {
  const [a, b, c, d, e, f, g, h] = outer;
  const [p, q, r, s, t, u, v, w] = inner;
  // Rows of outer times columns of inner, brought back to 1 in the last place.
  const last = g * t + h * u + 1;
  return [
    (a * p + c * q + e * v) / last,
    (b * p + d * q + f * v) / last,
    (a * r + c * s + e * w) / last,
    (b * r + d * s + f * w) / last,
    (a * t + c * u + e) / last,
    (b * t + d * u + f) / last,
    (g * p + h * q + v) / last,
    (g * r + h * s + w) / last,
  ];
}

/** The map back: the adjugate. Undefined where the plane is pressed flat. */
export function planeInverse([a, b, c, d, e, f, g, h]: PlaneMap): PlaneMap | undefined {
  const last = a * d - b * c;
  const det = a * (d - f * h) - c * (b - f * g) + e * (b * h - d * g);
  if (det === 0 || last === 0) return undefined;
  return [
    (d - f * h) / last,
    (f * g - b) / last,
    (e * h - c) / last,
    (a - e * g) / last,
    (c * f - e * d) / last,
    (e * b - a * f) / last,
    (b * h - d * g) / last,
    (c * g - a * h) / last,
  ];
}

export function planePoint([a, b, c, d, e, f, g, h]: PlaneMap, { x, y }: Point): Point {
  const under = g * x + h * y + 1;
  return { x: (a * x + c * y + e) / under, y: (b * x + d * y + f) / under };
}

/** The corners of a picture, clockwise from above left. */
export const cornersOfSize = ({ width, height }: Size): Point[] => [
  { x: 0, y: 0 },
  { x: width, y: 0 },
  { x: width, y: height },
  { x: 0, y: height },
];

/**
 * The map that takes a picture's corners to four places, clockwise from above left (Heckbert, Fundamentals of Texture Mapping and Image
 * Warping, 1989, 2.2.3). Undefined where three of them are in line.
 */
export function planeOfCorners({ width, height }: Size, [p, q, r, s]: readonly Point[]): PlaneMap | undefined {
  const [dx1, dy1] = [q!.x - r!.x, q!.y - r!.y];
  const [dx2, dy2] = [s!.x - r!.x, s!.y - r!.y];
  const [sx, sy] = [p!.x - q!.x + r!.x - s!.x, p!.y - q!.y + r!.y - s!.y];
  const det = dx1 * dy2 - dx2 * dy1;
  if (det === 0) return undefined;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return [
    (q!.x - p!.x + g * q!.x) / width,
    (q!.y - p!.y + g * q!.y) / width,
    (s!.x - p!.x + h * s!.x) / height,
    (s!.y - p!.y + h * s!.y) / height,
    ...([p!.x, p!.y] as const),
    g / width,
    h / height,
  ];
}

/** A map in pixels of pictures that are so many times as large on both sides. */
export const planeScaled = ([a, b, c, d, e, f, g, h]: PlaneMap, times: number): PlaneMap => [
  ...([a, b, c, d] as const),
  e * times,
  f * times,
  g / times,
  h / times,
];

/** The map of which the corners of a picture go a share of their way. */
export function planePart(map: PlaneMap, share: number, size: Size): PlaneMap {
  const corners = cornersOfSize(size).map((from) => {
    const to = planePoint(map, from);
    return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share };
  });
  return planeOfCorners(size, corners) ?? map;
}
