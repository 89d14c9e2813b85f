export { motionOf } from '../moments/watch';
import { joinedEnvelope, readEnvelope, type EnvelopePiece, type OnsetEnvelope } from '@hastig/core';
import { openOnsets } from '../derive/onsets';
import { missingPieces } from '../derive/pieces';
import type { FileLocation } from '../media/location';

/** The onset envelope of a file's first track of sound, made on the spot. Throws what opening and decoding throw. */
export async function envelopeOf(location: FileLocation): Promise<OnsetEnvelope> {
  const maker = await openOnsets({ location, params: '0' });
  try {
    const pieces: EnvelopePiece[] = [];
    for (const span of missingPieces(maker.total, maker.perPiece, [])) {
      const bytes = await maker.make(span, () => undefined, new AbortController().signal);
      pieces.push(readEnvelope(new Uint8Array(bytes)));
    }
    return joinedEnvelope(pieces, maker.sampleRate);
  } finally {
    await maker.close();
  }
}
