import { proxy, transfer } from 'comlink';
import { inWorker, startWorker, unlessBroken, WorkerGaveUp } from '../worker/handle';
import type { RenderJob, RenderProgress, RenderResult } from './job';

/** A render that is under way. */
export interface RunningRender {
  result: Promise<RenderResult>;
  /** Ends it; `result` is then refused with an error named RenderCancelled. */
  cancel(): void;
}

/**
 * Renders in a worker of its own, so that stage and page stay free; where it has picture and sound, the sound is made in another
 * one, so that the picture does not wait for it.
 */
export function startRender(job: RenderJob, onProgress: (progress: RenderProgress) => void): RunningRender {
  const beside = job.format !== 'wav' && job.sound ? startSound(job) : undefined;
  const { handle, result } = unlessBroken('The render crashed.', (api) =>
    beside
      ? api.render(job, proxy(onProgress), transfer(beside.port, [beside.port]))
      : api.render(job, proxy(onProgress)),
  );
  // A worker that breaks down answers nobody: whoever waits for its sound would wait for ever.
  const broken = new Promise<never>((_, reject) =>
    beside?.onBreakdown(() => reject(new WorkerGaveUp('Making the sound crashed. Render again.'))),
  );
  const either = Promise.race([result, broken]).finally(() => {
    handle.end();
    beside?.end();
  });
  return { result: either, cancel: () => void handle.api.cancelRender() };
}

/**
 * How long a render will take on this device, found in a worker of its own.
 *
 * @returns seconds; undefined where no picture is made
 */
export const estimate = (job: RenderJob): Promise<number | undefined> => inWorker((api) => api.estimateRender(job));

function startSound({ program, sources }: RenderJob) {
  const handle = startWorker();
  const { port1, port2 } = new MessageChannel();
  void handle.api.serveSound(program, sources, transfer(port1, [port1]));
  return { ...handle, port: port2 };
}
