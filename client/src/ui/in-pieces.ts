/** Milliseconds of work at a time: a picture of the screen has 16. */
const PIECE = 8;

/**
 * Goes through something long on the page's thread, a few milliseconds at a time, so that what is touched meanwhile answers.
 *
 * @param signal ends it; nothing is thrown then
 * @returns whether all of it was gone through
 */
export async function inPieces<T>(all: Iterable<T>, each: (one: T) => void, signal?: AbortSignal): Promise<boolean> {
  let until = performance.now() + PIECE;
  for (const one of all) {
    each(one);
    if (performance.now() < until) continue;
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (signal?.aborted) return false;
    until = performance.now() + PIECE;
  }
  return true;
}
