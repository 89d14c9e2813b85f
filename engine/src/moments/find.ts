import { joinedMotion, pictureMoments, readMotion, soundMoments, type FoundMoment } from '@hastig/core';
import { fetchEnvelope, type BeatQuestion } from '../beats/analyse';

/** What is asked: the pieces of a clip's motion in order, frames a second of its file, and the onsets of its sound, if it has any. */
export interface MomentQuestion {
  motion: readonly string[];
  rate: number;
  sound: BeatQuestion | null;
}

/** Moments of a clip's picture and of its sound, in order. */
export async function findMoments({ motion, rate, sound }: MomentQuestion): Promise<FoundMoment[]> {
  const pieces = await Promise.all(
    motion.map(async (address) => {
      const answer = await fetch(address);
      if (!answer.ok) throw new Error(`The analysis can’t be read (${answer.status}).`);
      return readMotion(new Uint8Array(await answer.arrayBuffer()));
    }),
  );
  const heard = sound ? soundMoments(await fetchEnvelope(sound), rate) : [];
  return [...pictureMoments(joinedMotion(pieces), rate), ...heard].sort((a, b) => a.frame - b.frame);
}
