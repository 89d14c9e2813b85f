import type { BeatAnalysis, OnsetEnvelope } from '@hastig/core';
import { proxy } from 'comlink';
import { inWorker, running, type Running } from '../worker/handle';
import type { BeatQuestion } from './analyse';

/**
 * Finds the beats of a track of sound from its onset envelope, in a worker of its own.
 *
 * @param onProgress told what share of the search is done
 */
export function searchBeats(question: BeatQuestion, onProgress: (share: number) => void): Running<BeatAnalysis> {
  return running((api) => api.analyseBeats(question, proxy(onProgress)));
}

/** Reads an onset envelope in a worker of its own: that of hours is tens of megabytes. */
export function fetchEnvelope(question: BeatQuestion): Promise<OnsetEnvelope> {
  return inWorker((api) => api.envelope(question));
}
