/**
 * A scrubbing copy of a media file: the same frames, small and in short groups, for playing and dragging. It is kept in
 * pieces of this many frames, so that what is there is of use before all of it is, and an interruption costs little.
 */
export const COPY_PIECE_FRAMES = 600;

/** Bytes of one piece at most. */
export const COPY_PIECE_BYTES = 128 * 2 ** 20;

/** A piece that is there: frames `piece · COPY_PIECE_FRAMES` and those after it. */
export interface CopyPiece {
  piece: number;
  bytes: number;
}

/** `GET /api/copies`: a list of these, which pieces of which files' copies are there, in order. */
export interface StoredCopy {
  sha256: string;
  pieces: CopyPiece[];
}

/** Pieces of a whole copy. */
export function copyPieces(frames: number): number {
  return Math.ceil(frames / COPY_PIECE_FRAMES);
}
