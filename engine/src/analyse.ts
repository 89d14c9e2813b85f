import { joinedEnvelope, joinedMotion, readEnvelope, readMotion, type Motion, type OnsetEnvelope } from '@hastig/core';
import { motionMaker } from './derive/motion';
import { openOnsets } from './derive/onsets';
import { makePieces } from './derive/read-pieces';
import type { FileLocation } from './media/location';

/** Analyses of files that are kept nowhere, as the command line asks for them. */

/** The onset envelope of a file's first track of sound. Throws what opening and decoding throw. */
export async function envelopeOf(location: FileLocation): Promise<OnsetEnvelope> {
  const maker = await openOnsets({ location, params: '0' });
  return joinedEnvelope(await makePieces(maker, readEnvelope), maker.sampleRate);
}

/** The motion of a file's picture. Throws what opening and decoding throw. */
export async function motionOf(location: FileLocation): Promise<Motion> {
  return joinedMotion(await makePieces(await motionMaker({ location }), readMotion));
}
