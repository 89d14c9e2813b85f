import type { RetimeMap } from '@hastig/contract';
import { constantSpan, EditRefused, pasteTiming, rateToNumber, timingOf, type PasteHow } from '@hastig/core';
import { CommandFailed } from '../fail';
import type { TakenClip } from '../source-facts';

/** One timing on a clip, as if it were pasted there. Throws CommandFailed where it can't be scaled. */
export function mapFor({ frames, rate }: Pick<TakenClip, 'frames' | 'rate'>, map: RetimeMap, how: PasteHow): RetimeMap {
  const length = (frames * rateToNumber(map.outputRate)) / rateToNumber(rate);
  const plain: RetimeMap = {
    ...{ sourceRate: rate, outputRate: map.outputRate, sourceFrames: frames, start: 0 },
    spans: [constantSpan(1, length)],
  };
  try {
    return pasteTiming(plain, timingOf(map), how);
  } catch (error) {
    if (error instanceof EditRefused) throw new CommandFailed(error.message);
    throw error;
  }
}
