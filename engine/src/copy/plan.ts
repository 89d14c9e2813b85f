import { COPY_PIECE_FRAMES, copyPieces } from '@hastig/contract';

/** Pixels of a copy's longer edge at most. */
const LONGEST_EDGE = 640;

/** A piece of a copy: which, and the file's frames in it; `end` is not. */
export interface PieceSpan {
  piece: number;
  start: number;
  end: number;
}

/** The pieces that are still to be made, in order. */
export function missingPieces(frames: number, there: readonly { piece: number }[]): PieceSpan[] {
  const made = new Set(there.map(({ piece }) => piece));
  return Array.from({ length: copyPieces(frames) }, (_, piece) => piece)
    .filter((piece) => !made.has(piece))
    .map((piece) => ({
      piece,
      start: piece * COPY_PIECE_FRAMES,
      end: Math.min(frames, (piece + 1) * COPY_PIECE_FRAMES),
    }));
}

/**
 * Pixels of a copy: the picture's shape, small and even. A picture in fields keeps its size, for made smaller its lines
 * would no longer belong to one field or the other.
 */
export function copySize(
  { width, height }: { width: number; height: number },
  interlaced: boolean,
): { width: number; height: number } {
  const scale = interlaced ? 1 : Math.min(1, LONGEST_EDGE / Math.max(width, height));
  const even = (pixels: number): number => Math.max(2, 2 * Math.round((pixels * scale) / 2));
  return { width: even(width), height: even(height) };
}
