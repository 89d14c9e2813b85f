import type { Loudness, Program } from '@hastig/core';
import { proxy } from 'comlink';
import type { SourceLocations } from '../media/source-pool';
import { startWorker } from '../worker/handle';

/** Loudness that is being measured. */
export interface RunningLoudness {
  /** Null where there is no sound. */
  result: Promise<Loudness | null>;
  /** Ends it; `result` is never kept then. */
  cancel(): void;
}

/**
 * Measures how loud a program is, in a worker of its own, so that what plays goes on.
 *
 * @param onProgress told the share that has been listened to
 */
export function startLoudness(
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
): RunningLoudness {
  const handle = startWorker();
  const result = handle.api.loudness(program, sources, proxy(onProgress)).finally(() => handle.end());
  return { result, cancel: () => handle.end() };
}
