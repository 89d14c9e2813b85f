import { planarBytes, type PlanarPicture } from '../flow';

/** A part of a picture in brightness and two colour differences, in units of so many pixels. */
export interface Region {
  /** Pixels of the picture at the middle of the first unit. */
  left: number;
  top: number;
  /** Pixels in a unit. */
  unit: number;
  columns: number;
  rows: number;
  /** Y, Cb, Cr of each unit, in rows. */
  values: Uint8Array;
}

/** Planes of a region. */
export const PLANES = 3;

/**
 * Takes a part of a picture, each unit the mean of its pixels; past the edges what is at the edge goes on.
 *
 * @param x middle, in pixels (0 at the left edge of the first pixel), @param half units to each side of the unit in the middle
 */
export function regionAt(
  { width, height, data }: PlanarPicture,
  x: number,
  y: number,
  half: number,
  unit: number,
): Region {
  const [column, row] = [Math.floor(x / unit) - half, Math.floor(y / unit) - half];
  const columns = 2 * half + 1;
  const values = new Uint8Array(PLANES * columns * columns);
  const across = (width + 1) >> 1;
  const luma = width * height;
  const chroma = (planarBytes(width, height) - luma) >> 1;
  const down = chroma / across;
  const [sides, lines] = [between(column, columns, unit, across), between(row, columns, unit, down)];
  for (let j = 0; j < columns; j++) {
    const y0 = (row + j) * unit;
    const [ya, yb, fy] = [lines.low[j]! * across, lines.high[j]! * across, lines.share[j]!];
    for (let i = 0; i < columns; i++) {
      const x0 = (column + i) * unit;
      const at = PLANES * (j * columns + i);
      let sum = 0;
      for (let v = 0; v < unit; v++) {
        const line = clamp(y0 + v, height) * width;
        for (let u = 0; u < unit; u++) sum += data[line + clamp(x0 + u, width)]!;
      }
      values[at] = sum / (unit * unit) + 0.5;
      const [xa, xb, fx] = [sides.low[i]!, sides.high[i]!, sides.share[i]!];
      for (let plane = 1, base = luma; plane < PLANES; plane++, base += chroma) {
        const upper = data[base + ya + xa]! * (1 - fx) + data[base + ya + xb]! * fx;
        const lower = data[base + yb + xa]! * (1 - fx) + data[base + yb + xb]! * fx;
        values[at + plane] = upper * (1 - fy) + lower * fy + 0.5;
      }
    }
  }
  return { left: (column + 0.5) * unit, top: (row + 0.5) * unit, unit, columns, rows: columns, values };
}

/** For units in a row: the colour's places on both sides of their middles, and how far between; colour lies between its four pixels. */
function between(
  first: number,
  count: number,
  unit: number,
  length: number,
): { low: Int32Array; high: Int32Array; share: Float64Array } {
  const [low, high, share] = [new Int32Array(count), new Int32Array(count), new Float64Array(count)];
  for (let n = 0; n < count; n++) {
    const place = ((first + n) * unit + unit / 2) / 2 - 0.5;
    const before = Math.floor(place);
    low[n] = clamp(before, length);
    high[n] = clamp(before + 1, length);
    share[n] = place - before;
  }
  return { low, high, share };
}

const clamp = (value: number, length: number): number => (value < 0 ? 0 : value >= length ? length - 1 : value);

/** A place of the picture in units of a region, from the middle of its first one. */
export const inRegion = ({ left, top, unit }: Region, x: number, y: number): [column: number, row: number] => [
  (x - left) / unit,
  (y - top) / unit,
];

/** The part of a region around one of its units, as far as it reaches. */
export function partOf(
  { left, top, unit, columns, rows, values }: Region,
  column: number,
  row: number,
  half: number,
): Region {
  const [x, y] = [Math.max(0, column - half), Math.max(0, row - half)];
  const [wide, high] = [Math.min(columns, column + half + 1) - x, Math.min(rows, row + half + 1) - y];
  const part = new Uint8Array(PLANES * wide * high);
  for (let line = 0; line < high; line++) {
    const from = PLANES * ((y + line) * columns + x);
    part.set(values.subarray(from, from + PLANES * wide), PLANES * line * wide);
  }
  return { left: left + x * unit, top: top + y * unit, unit, columns: wide, rows: high, values: part };
}
