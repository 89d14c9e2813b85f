import type { Loudness, Program } from '@hastig/core';
import { proxy } from 'comlink';
import type { SourceLocations } from '../media/source-pool';
import type { HeardPart } from './measure';
import { running, type Running } from '../worker/handle';

/**
 * Measures how loud a program is, in a worker of its own, so that what plays goes on.
 *
 * @param onProgress told the share that has been listened to
 * @param part what of it, and how it is written; all of it, both sides, unless told
 * @returns null where there is no sound
 */
export function startLoudness(
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
  part?: HeardPart,
): Running<Loudness | null> {
  return running((api) => api.loudness(program, sources, proxy(onProgress), part));
}
