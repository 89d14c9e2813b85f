import {
  analyseBeats,
  joinedMotion,
  LoudnessMeter,
  readEnvelope,
  readMotion,
  onsetsOfPieces,
  soundMoments,
  type BeatAnalysis,
  type FoundMoment,
  type Loudness,
  type Motion,
  type Onset,
  type OnsetBand,
  type PiecedEnvelope,
} from '@hastig/core';
import { motionMaker } from './derive/motion';
import { openOnsets } from './derive/onsets';
import { missingPieces } from './derive/pieces';
import { makePieces } from './derive/read-pieces';
import { decodedSound } from './media/decoded-sound';
import type { FileLocation } from './media/location';
import { openSound } from './media/open-sound';

export { retimedSound, type SoundJob } from './render/sound-pieces';
export { findCamera, type CameraQuestion } from './camera/camera';
export { trackBox, type TrackQuestion } from './track/track';

/** Analyses of files that are kept nowhere, as the command line asks for them. */

/** Listens to a file's first track of sound piece by piece, nothing of it kept. Throws what opening and decoding throw. */
async function listened<T>(location: FileLocation, hear: (pieces: PiecedEnvelope) => Promise<T>): Promise<T> {
  const maker = await openOnsets({ location, params: '0' });
  const spans = missingPieces(maker.total, maker.perPiece, []);
  const never = new AbortController().signal;
  const read = async (piece: number) =>
    readEnvelope(new Uint8Array(await maker.make(spans[piece]!, () => undefined, never)));
  try {
    return await hear({ count: spans.length, sampleRate: maker.sampleRate, read });
  } finally {
    await maker.close();
  }
}

/** Beats, bars and hits of a file's sound. Throws what opening and decoding throw. */
export const beatsOf = (location: FileLocation): Promise<BeatAnalysis> =>
  listened(location, (pieces) => analyseBeats(pieces));

/** The hits in a file's sound, of one band or of all. Throws what opening and decoding throw. */
export const hitsOf = (location: FileLocation, band?: OnsetBand): Promise<Onset[]> =>
  listened(location, (pieces) => onsetsOfPieces(pieces, band ? { band } : {}));

/** The hits in a clip's own sound as moments; `rate` is frames a second. Throws what opening and decoding throw. */
export const soundMomentsOf = (location: FileLocation, rate: number): Promise<FoundMoment[]> =>
  listened(location, (pieces) => soundMoments(pieces, rate));

/** The motion of a file's picture. Throws what opening and decoding throw. */
export async function motionOf(location: FileLocation): Promise<Motion> {
  return joinedMotion(await makePieces(await motionMaker({ location }), readMotion));
}

/** How loud the first track of a file's sound is. Throws what opening and decoding throw. */
export async function loudnessOf(location: FileLocation): Promise<Loudness> {
  const { track, facts, dispose } = await openSound(location, 0, 'so its loudness can’t be measured');
  try {
    const meter = new LoudnessMeter(facts.sampleRate, facts.channels);
    for await (const { samples } of decodedSound(track, facts, 0, Infinity)) meter.add(samples);
    return meter.loudness;
  } finally {
    dispose();
  }
}
