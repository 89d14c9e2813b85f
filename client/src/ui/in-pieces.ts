/** Milliseconds of work at a time: a picture of the screen has 16. */
const PIECE = 8;

interface Pieces {
  /** Ends it; nothing is thrown then. */
  signal?: AbortSignal;
  /** Hears how many are done, between two pieces. */
  onPiece?(done: number): void;
}

/**
 * Goes through something long on the page's thread, a few milliseconds at a time, so that what is touched meanwhile answers.
 *
 * @returns whether all of it was gone through
 */
export async function inPieces<T>(all: Iterable<T>, each: (one: T) => void, pieces: Pieces = {}): Promise<boolean> {
  let until = performance.now() + PIECE;
  let done = 0;
  for (const one of all) {
    each(one);
    done++;
    if (performance.now() < until) continue;
    pieces.onPiece?.(done);
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (pieces.signal?.aborted) return false;
    until = performance.now() + PIECE;
  }
  return true;
}
