import { pictureMoments, rateToNumber, type FoundMoment } from '@hastig/core';
import { motionOf, soundMomentsOf } from '@hastig/engine/analyse';
import type { Rate } from '@hastig/contract';

declare global {
  interface Window {
    /** The moments of a clip, its sound's too where it has any. */
    findClipMoments(url: string, bytes: number, rate: Rate, audible: boolean): Promise<FoundMoment[]>;
  }
}

window.findClipMoments = async (url, bytes, rate, audible) => {
  const perSecond = rateToNumber(rate);
  const motion = await motionOf({ url, bytes, once: true });
  const heard = audible ? await soundMomentsOf({ url, bytes, once: true }, perSecond) : [];
  return [...pictureMoments(motion, perSecond), ...heard].sort((a, b) => a.frame - b.frame);
};
