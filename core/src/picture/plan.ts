import type { Rate, RetimeMap } from '@hastig/contract';
import { rateRatio } from '../time';
import { compile, HELD_EPSILON, heldFrame } from '../retime';

/** Which source frame a picture shows, for every frame of a file or a preview. Data only; pixels are elsewhere. */
export interface PicturePlan {
  /** Number of pictures. */
  count: number;
  rate: Rate;
  /** Source frame (clamped to the source) that picture `n` holds, `0 ≤ n < count`. */
  frameAt(n: number): number;
}

/**
 * The plan "held frame": each picture shows the source frame in which its moment lies.
 *
 * @param rate of the pictures; where it is not the map's output rate, the moments are taken at the new rate
 *   and the length in seconds stays
 */
export function heldPlan(map: RetimeMap, rate: Rate = map.outputRate): PicturePlan {
  const ready = compile(map);
  const step = rateRatio(map.outputRate, rate);
  return {
    count: Math.max(1, Math.ceil(ready.length / step - HELD_EPSILON)),
    rate,
    frameAt: (n) => heldFrame(ready, n * step),
  };
}
