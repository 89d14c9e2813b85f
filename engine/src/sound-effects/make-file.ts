import { EFFECT_LEAD, effects, makeEffect, waveBytes, whooshFrom, type SpeedCourse } from '@hastig/core';

/** An effect that is wanted: one of the library by its id, or a whoosh made for a clip. */
export type WantedEffect = { id: string } | SpeedCourse;

/** An effect as a WAVE file, and the seconds of it at which it begins to rise and is loudest. */
export interface EffectFile {
  bytes: Uint8Array<ArrayBuffer>;
  rise: number;
  loudest: number;
}

/** Samples a second of every effect. */
const RATE = 48_000;

/** Makes an effect. @throws RangeError for an id that is not in the library */
export function makeEffectFile(wanted: WantedEffect): EffectFile {
  if ('speeds' in wanted) {
    const loudest = EFFECT_LEAD + wanted.fastest / wanted.perSecond;
    return { bytes: waveBytes(whooshFrom(wanted, RATE), RATE), rise: EFFECT_LEAD, loudest };
  }
  const effect = effects.find(({ id }) => id === wanted.id);
  if (!effect) throw new RangeError(`there is no effect ${wanted.id}`);
  return { bytes: waveBytes(makeEffect(effect, RATE), RATE), rise: EFFECT_LEAD, loudest: effect.loudest };
}
