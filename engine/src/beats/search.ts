import type { OnsetEnvelope } from '@hastig/core';
import { inWorker, startWorker } from '../worker/handle';
import type { BeatAnalysis } from './analysis';
import type { BeatQuestion } from './analyse';

/** Beats that are being searched. */
export interface RunningSearch {
  result: Promise<BeatAnalysis>;
  /** Ends it; `result` is never kept then. */
  cancel(): void;
}

/** Finds the beats of a track of sound from its onset envelope, in a worker of its own. */
export function searchBeats(question: BeatQuestion): RunningSearch {
  const handle = startWorker();
  const result = handle.api.analyseBeats(question).finally(() => handle.end());
  return { result, cancel: () => handle.end() };
}

/** Reads an onset envelope in a worker of its own: that of hours is tens of megabytes. */
export function fetchEnvelope(question: BeatQuestion): Promise<OnsetEnvelope> {
  return inWorker((api) => api.envelope(question));
}
