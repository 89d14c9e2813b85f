import type { FoundMoment } from '@hastig/core';
import { inWorker } from '../worker/handle';
import type { MomentQuestion } from './find';

/** Finds moments in a worker of its own. */
export function searchMoments(question: MomentQuestion): Promise<FoundMoment[]> {
  return inWorker((api) => api.findMoments(question));
}
