/** A contact sheet: rows of pictures whose whole length is a source's. */
interface ContactCells {
  cells: { x: number; y: number; frame: number }[];
  /** Frames from one picture to the next (real). */
  step: number;
  /** Pixels of one picture's width, and of the whole sheet's height. */
  wide: number;
  height: number;
  /** The frame at a place. */
  frameAt(x: number, y: number): number;
  placeOf(frame: number): { x: number; y: number };
}

/** Rows at most; longer sources have more frames between two pictures. */
const MOST_ROWS = 3;

/**
 * Lays pictures out over a width.
 *
 * @param frames of the source
 * @param picture least width of a picture, in pixels; `height` its height, `between` what lies between two
 */
export function contactCells(
  width: number,
  frames: number,
  picture: number,
  height: number,
  between: number,
): ContactCells {
  const columns = Math.max(1, Math.floor((width + between) / (picture + between)));
  const rows = Math.min(MOST_ROWS, Math.max(1, Math.ceil(frames / columns)));
  const count = Math.min(frames, columns * rows);
  const step = frames / count;
  const each = (width + between) / columns;
  const line = height + between;
  const placeOf = (frame: number): { x: number; y: number } => {
    const at = Math.min(count - 1e-9, frame / step);
    const row = Math.floor(at / columns);
    return { x: (at - row * columns) * each, y: row * line };
  };
  return {
    cells: Array.from({ length: count }, (_, index) => ({ ...placeOf(index * step), frame: Math.floor(index * step) })),
    step,
    wide: each - between,
    height: rows * line - between,
    placeOf,
    frameAt: (x, y) => {
      const row = Math.min(rows - 1, Math.max(0, Math.floor(y / line)));
      const column = Math.min(columns - 1e-9, Math.max(0, x / each));
      return Math.min(frames - 1, Math.max(0, Math.floor((row * columns + column) * step)));
    },
  };
}
