import type { Rate } from '@hastig/contract';
import { rateRatio } from '../time';

/**
 * The slowest speed at which every output frame still has a source frame of its own: output rate / source rate.
 * 60 → 24 gives 0.4; below it frames are repeated or must be made up.
 */
export function realFrameFloor(sourceRate: Rate, outputRate: Rate): number {
  return rateRatio(outputRate, sourceRate);
}
