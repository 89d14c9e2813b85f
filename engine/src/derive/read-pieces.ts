import type { Maker } from './job';
import { missingPieces } from './pieces';

/**
 * Reads a piece that was derived.
 *
 * @throws what fetching throws; an Error with the answer's status; what `read` throws for bytes that are none
 */
export async function fetchPiece<T>(address: string, read: (bytes: Uint8Array) => T): Promise<T> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`The analysis can’t be read (${answer.status}). Try again.`);
  return read(new Uint8Array(await answer.arrayBuffer()));
}

/** Reads pieces that were derived, in order; throws as `fetchPiece` does. */
export function fetchPieces<T>(addresses: readonly string[], read: (bytes: Uint8Array) => T): Promise<T[]> {
  return Promise.all(addresses.map((address) => fetchPiece(address, read)));
}

/** Makes all pieces on the spot, for whoever keeps none, and closes what made them. Throws what decoding throws. */
export async function makePieces<T>(maker: Maker, read: (bytes: Uint8Array) => T): Promise<T[]> {
  try {
    const pieces: T[] = [];
    for (const span of missingPieces(maker.total, maker.perPiece, [])) {
      pieces.push(read(new Uint8Array(await maker.make(span, () => undefined, new AbortController().signal))));
    }
    return pieces;
  } finally {
    await maker.close();
  }
}
