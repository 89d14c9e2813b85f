import { proxy } from 'comlink';
import { startWorker } from '../worker/handle';
import type { DeriveJob, DeriveProgress } from './job';

/** Something that is being derived. */
export interface RunningDerive {
  result: Promise<void>;
  /** Ends it; the pieces that were sent stay. `result` is then refused with an error named AbortError. */
  cancel(): void;
}

/** Derives something in a worker of its own, so that stage and page stay free. */
export function startDerive(job: DeriveJob, onProgress: (progress: DeriveProgress) => void): RunningDerive {
  const handle = startWorker();
  const result = handle.api.derive(job, proxy(onProgress)).finally(() => handle.end());
  return { result, cancel: () => void handle.api.cancelDerive() };
}
