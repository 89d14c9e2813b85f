import {
  joinedEnvelope,
  joinedMotion,
  LoudnessMeter,
  mixDown,
  mixedChannels,
  readEnvelope,
  readMotion,
  type Loudness,
  type Motion,
  type OnsetEnvelope,
} from '@hastig/core';
import { motionMaker } from './derive/motion';
import { openOnsets } from './derive/onsets';
import { makePieces } from './derive/read-pieces';
import { decodedSound } from './media/decoded-sound';
import type { FileLocation } from './media/location';
import { openSound } from './media/open-sound';

export { retimedSound, type SoundJob } from './render/sound-pieces';

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

/** How loud the first track of a file's sound is. Throws what opening and decoding throw. */
export async function loudnessOf(location: FileLocation): Promise<Loudness> {
  const { track, facts, dispose } = await openSound(location, 0, 'so its loudness can’t be measured');
  try {
    const meter = new LoudnessMeter(facts.sampleRate, mixedChannels(facts.channels));
    for await (const { samples } of decodedSound(track, facts, 0, Infinity)) meter.add(mixDown(samples));
    return meter.loudness;
  } finally {
    dispose();
  }
}
