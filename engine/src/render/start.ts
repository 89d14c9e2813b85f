import { proxy } from 'comlink';
import { startWorker } from '../worker/handle';
import type { RenderJob, RenderProgress, RenderResult } from './job';

/** A render that is under way. */
export interface RunningRender {
  result: Promise<RenderResult>;
  /** Ends it; `result` is then refused with an error named RenderCancelled. */
  cancel(): void;
}

/** Renders in a worker of its own, so that stage and page stay free. */
export function startRender(job: RenderJob, onProgress: (progress: RenderProgress) => void): RunningRender {
  const handle = startWorker();
  const result = handle.api.render(job, proxy(onProgress)).finally(() => handle.end());
  return { result, cancel: () => void handle.api.cancelRender() };
}
