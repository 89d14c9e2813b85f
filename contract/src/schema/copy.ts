import { sha256Schema } from './media';

/**
 * A scrubbing copy of a media file: the same frames, small and in short groups, for playing and dragging. It is kept in
 * pieces of this many frames, so that what is there is of use before all of it is, and an interruption costs little.
 */
export const COPY_PIECE_FRAMES = 600;

/** Bytes of one piece at most. */
export const COPY_PIECE_BYTES = 128 * 2 ** 20;

/** A piece that is there: frames `piece · COPY_PIECE_FRAMES` and those after it. */
export const copyPieceSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['piece', 'bytes'],
  properties: { piece: { type: 'integer', minimum: 0 }, bytes: { type: 'integer', minimum: 1 } },
} as const;

export interface CopyPiece {
  piece: number;
  bytes: number;
}

/** `GET /api/copies`: which pieces of which files' copies are there, in order. */
export const copiesSchema = {
  $id: 'hastig:copies',
  type: 'array',
  items: {
    type: 'object',
    additionalProperties: false,
    required: ['sha256', 'pieces'],
    properties: { sha256: sha256Schema, pieces: { type: 'array', items: copyPieceSchema } },
  },
} as const;

export interface StoredCopy {
  sha256: string;
  pieces: CopyPiece[];
}

/** Pieces of a whole copy. */
export function copyPieces(frames: number): number {
  return Math.ceil(frames / COPY_PIECE_FRAMES);
}
