import { joinedMotion, readMotion, type Motion } from '@hastig/core';
import { missingPieces } from '../derive/pieces';
import { motionMaker } from '../derive/motion';
import type { FileLocation } from '../media/location';

/** The motion of a file's picture, made on the spot. Throws what opening and decoding throw. */
export async function motionOf(location: FileLocation): Promise<Motion> {
  const maker = await motionMaker({ location });
  try {
    const pieces: Motion[] = [];
    for (const span of missingPieces(maker.total, maker.perPiece, [])) {
      const bytes = await maker.make(span, () => undefined, new AbortController().signal);
      pieces.push(readMotion(new Uint8Array(bytes)));
    }
    return joinedMotion(pieces);
  } finally {
    await maker.close();
  }
}
