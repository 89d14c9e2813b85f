/** A piece of a whole: which, and the units in it; `end` is not. */
export interface PieceSpan {
  piece: number;
  start: number;
  end: number;
}

/**
 * The pieces that are still to be made, in order.
 *
 * @param total units of the whole: frames, samples
 * @param perPiece units in every piece but the last
 */
export function missingPieces(total: number, perPiece: number, there: readonly { piece: number }[]): PieceSpan[] {
  const made = new Set(there.map(({ piece }) => piece));
  return Array.from({ length: Math.ceil(total / perPiece) }, (_, piece) => piece)
    .filter((piece) => !made.has(piece))
    .map((piece) => ({ piece, start: piece * perPiece, end: Math.min(total, (piece + 1) * perPiece) }));
}
