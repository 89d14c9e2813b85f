import type { Source } from 'mediabunny';
import { RefusedMedia } from './refused';

/** What the reading library's sources do inside, as much as is needed here. */
interface Inside {
  _read(...range: unknown[]): unknown;
}

/** Looks into a file while it is read for what it is: so many, whatever its size, and for each byte on top. */
const MOST_LOOKS = { base: 100_000, perByte: 0.5 };

/**
 * Bounds how often a file is looked into, by its size, until the returned function is called. Damaged tables can lead a reader round
 * in circles (the library's search for the next element of a Matroska file stands still where just eight bytes are left); each
 * round looks into the file once.
 *
 * @param bytes the file's size
 */
export function boundLooks(source: Source, bytes: number): () => void {
  const inside = source as unknown as Inside;
  const most = MOST_LOOKS.base + MOST_LOOKS.perByte * bytes;
  let looks = 0;
  inside._read = function (...range) {
    if (++looks > most)
      throw new RefusedMedia(
        'The file is damaged: its parts lead round in circles. Copy it again from its origin, or export it again from a program that plays it.',
      );
    return (Object.getPrototypeOf(this) as Inside)._read.apply(this, range);
  };
  return () => {
    delete (inside as Partial<Inside>)._read;
  };
}
