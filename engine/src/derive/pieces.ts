/** A piece of a whole: which, and the units in it; `end` is not. */
export interface PieceSpan {
  piece: number;
  start: number;
  end: number;
}

/**
 * The pieces that are still to be made: from where they are wanted to the end, then from the beginning.
 *
 * @param total units of the whole: frames, samples
 * @param perPiece units in every piece but the last
 * @param near where in the whole they are wanted first, 0 to 1
 */
export function missingPieces(
  total: number,
  perPiece: number,
  there: readonly { piece: number }[],
  near = 0,
): PieceSpan[] {
  const made = new Set(there.map(({ piece }) => piece));
  const count = Math.ceil(total / perPiece);
  const first = Math.min(count - 1, Math.max(0, Math.floor((near * total) / perPiece)));
  return Array.from({ length: count }, (_, place) => (first + place) % count)
    .filter((piece) => !made.has(piece))
    .map((piece) => ({ piece, start: piece * perPiece, end: Math.min(total, (piece + 1) * perPiece) }));
}
