import { proxy } from 'comlink';
import { startWorker } from '../worker/handle';
import type { CopyJob, CopyProgress } from './make-copy';

/** A scrubbing copy that is being made. */
export interface RunningCopy {
  result: Promise<void>;
  /** Ends it; the pieces that were sent stay. `result` is then refused with an error named AbortError. */
  cancel(): void;
}

/** Makes a scrubbing copy in a worker of its own, so that stage and page stay free. */
export function startCopy(job: CopyJob, onProgress: (progress: CopyProgress) => void): RunningCopy {
  const handle = startWorker();
  const result = handle.api.makeCopy(job, proxy(onProgress)).finally(() => handle.end());
  return { result, cancel: () => void handle.api.cancelCopy() };
}
