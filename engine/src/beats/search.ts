import type { BeatAnalysis, OnsetEnvelope } from '@hastig/core';
import { proxy } from 'comlink';
import { inWorker, startWorker } from '../worker/handle';
import type { BeatQuestion } from './analyse';

/** Beats that are being searched. */
export interface RunningSearch {
  result: Promise<BeatAnalysis>;
  /** Ends it; `result` is never kept then. */
  cancel(): void;
}

/**
 * Finds the beats of a track of sound from its onset envelope, in a worker of its own.
 *
 * @param onProgress told what share of the search is done
 */
export function searchBeats(question: BeatQuestion, onProgress: (share: number) => void): RunningSearch {
  const handle = startWorker();
  const result = handle.api.analyseBeats(question, proxy(onProgress)).finally(() => handle.end());
  return { result, cancel: () => handle.end() };
}

/** Reads an onset envelope in a worker of its own: that of hours is tens of megabytes. */
export function fetchEnvelope(question: BeatQuestion): Promise<OnsetEnvelope> {
  return inWorker((api) => api.envelope(question));
}
