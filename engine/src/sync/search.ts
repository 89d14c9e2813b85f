import type { FoundOffset } from '@hastig/core';
import { running, type Running } from '../worker/handle';
import type { HeardRecording, Recording } from './find';

/** Finds how a second recording lies against a first, see `findSync`, in a worker of its own. */
export function searchSync(ours: HeardRecording, theirs: Recording): Running<FoundOffset> {
  return running((api) => api.findSync(ours, theirs));
}
