import { joinedMotion, pictureMoments, readMotion, soundMoments, type FoundMoment } from '@hastig/core';
import { piecesAt, type BeatQuestion } from '../beats/analyse';
import { fetchPieces } from '../derive/read-pieces';

/** What is asked: the pieces of a clip's motion in order, frames a second of its file, and the onsets of its sound, if it has any. */
export interface MomentQuestion {
  motion: readonly string[];
  rate: number;
  sound: BeatQuestion | null;
}

/** Moments of a clip's picture and of its sound, in order. */
export async function findMoments({ motion, rate, sound }: MomentQuestion): Promise<FoundMoment[]> {
  const pieces = await fetchPieces(motion, readMotion);
  const heard = sound ? await soundMoments(piecesAt(sound), rate) : [];
  return [...pictureMoments(joinedMotion(pieces), rate), ...heard].sort((a, b) => a.frame - b.frame);
}
