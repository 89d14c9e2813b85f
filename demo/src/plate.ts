/**
 * The frame-number plate in the corner of every picture: the number for people and, beneath it, the same number as
 * a row of black and white cells for machines. Read back, it proves which source frame a picture shows.
 *
 * Cells from left to right: white, black (so that the row is found), 16 bits of the number with the highest
 * first, one bit of even parity.
 */

/** Bits of the number. */
const PLATE_BITS = 16;
const GUARD = [1, 0];
/** Cells in the row. */
const PLATE_CELLS = GUARD.length + PLATE_BITS + 1;

/** Where the plate lies, in pixels of a picture. */
interface PlateLayout {
  x: number;
  y: number;
  /** Side of a cell. */
  cell: number;
}

/** The plate's place in a picture of this size: lower left, the row a fifth of the width (half of it when `large`). */
export function plateLayout(width: number, height: number, large = false): PlateLayout {
  const cell = Math.max(2, Math.round((width * (large ? 0.6 : 0.2)) / PLATE_CELLS));
  return { x: Math.round(width * 0.03), y: height - Math.round(width * 0.03) - cell, cell };
}

/** Cells of a frame number, 1 for white. Throws for a number that does not fit. */
export function plateCells(frame: number): number[] {
  if (!Number.isInteger(frame) || frame < 0 || frame >= 2 ** PLATE_BITS)
    throw new RangeError(`no plate for frame ${frame}`);
  const bits = Array.from({ length: PLATE_BITS }, (_, i) => (frame >> (PLATE_BITS - 1 - i)) & 1);
  const parity = bits.reduce((sum, bit) => sum ^ bit, 0);
  return [...GUARD, ...bits, parity];
}

/**
 * Reads the plate of a picture.
 *
 * @param luma brightness of the pixel at x, y: 0…255
 * @returns the frame number, or undefined where no plate can be read
 */
export function readPlate(
  luma: (x: number, y: number) => number,
  width: number,
  height: number,
  large = false,
): number | undefined {
  const { x, y, cell } = plateLayout(width, height, large);
  const cells = Array.from({ length: PLATE_CELLS }, (_, i) => {
    const [cx, cy] = [Math.round(x + (i + 0.5) * cell), Math.round(y + cell / 2)];
    return (luma(cx, cy) + luma(cx - 1, cy) + luma(cx, cy - 1)) / 3;
  });
  const middle = (cells[0]! + cells[1]!) / 2;
  if (cells[0]! - cells[1]! < 60) return undefined;
  const bits = cells.map((value): number => (value > middle ? 1 : 0));
  const number = bits.slice(GUARD.length, -1);
  if (number.reduce((sum, bit) => sum ^ bit, 0) !== bits.at(-1)) return undefined;
  return number.reduce((value, bit) => value * 2 + bit, 0);
}
