import { proxy } from 'comlink';
import { unlessBroken } from '../worker/handle';
import type { DeriveJob, DeriveProgress } from './job';

/** Something that is being derived. */
export interface RunningDerive {
  /** Refused with WorkerGaveUp where its worker broke down; the pieces that were sent stay. */
  result: Promise<void>;
  /** Ends it; the pieces that were sent stay. `result` is then refused with an error named AbortError. */
  cancel(): void;
}

/** Derives something in a worker of its own, so that stage and page stay free. */
export function startDerive(job: DeriveJob, onProgress: (progress: DeriveProgress) => void): RunningDerive {
  const { handle, result } = unlessBroken('Preparing the file crashed.', (api) => api.derive(job, proxy(onProgress)));
  return { result, cancel: () => void handle.api.cancelDerive() };
}
