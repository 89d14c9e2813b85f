import type { FoundOffset } from '@hastig/core';
import { running, type Running } from '../worker/handle';
import type { Recording } from './find';

/** Finds how a second recording lies against a first, see `findSync`, in a worker of its own. */
export function searchSync(ours: Recording, theirs: Recording): Running<FoundOffset> {
  return running((api) => api.findSync(ours, theirs));
}
