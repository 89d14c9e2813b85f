import { wrap, type Remote } from 'comlink';
import type { EngineApi } from './api';

/** Where the server has the engine's worker; built from `engine.worker.ts` by `scripts/build`. */
const WORKER_ADDRESS = '/engine/engine.worker.js';

/** A worker of the engine and the way to end it. */
export interface EngineHandle {
  api: Remote<EngineApi>;
  /** Ends the worker at once and frees all it holds. */
  end(): void;
  /** Calls back when the worker cannot go on, for want of memory for instance: its promises are never kept then. */
  onBreakdown(listener: () => void): void;
}

export function startWorker(): EngineHandle {
  const worker = new Worker(new URL(WORKER_ADDRESS, globalThis.location.href), { name: 'engine', type: 'module' });
  return {
    api: wrap<EngineApi>(worker),
    end: () => worker.terminate(),
    onBreakdown: (listener) => worker.addEventListener('error', listener, { once: true }),
  };
}

/**
 * Starts one thing in a worker of its own, which ends with it.
 *
 * @param crashed what to say where the worker breaks down, for people; what to do follows it
 */
export function unlessBroken<T>(
  crashed: string,
  task: (api: Remote<EngineApi>) => Promise<T>,
): { handle: EngineHandle; result: Promise<T> } {
  const handle = startWorker();
  const broken = new Promise<never>((_, reject) =>
    handle.onBreakdown(() => reject(new WorkerGaveUp(`${crashed} Try again; if it goes on, close other tabs first.`))),
  );
  const result = Promise.race([task(handle.api), broken]).finally(() => handle.end());
  return { handle, result };
}

/** Work that is under way in a worker of its own. */
export interface Running<T> {
  /** Rejects with what the work throws, and with WorkerGaveUp where the worker broke down. */
  result: Promise<T>;
  /** Ends it; `result` is never kept then. */
  cancel(): void;
}

/** Does one thing in a worker of its own until it is done or called off. */
export function running<T>(task: (api: Remote<EngineApi>) => Promise<T>): Running<T> {
  const { handle, result } = unlessBroken('The worker crashed.', task);
  return { result, cancel: () => handle.end() };
}

/** A worker did not get done in time, or ended under its work. */
export class WorkerGaveUp extends Error {
  override readonly name = 'WorkerGaveUp';
}

/**
 * Does one thing in a worker of its own, which ends with it.
 *
 * @param limit milliseconds after which it is ended, once it has started; as long as it takes unless given
 * @throws WorkerGaveUp where it was ended, or broke down
 */
export async function inWorker<T>(task: (api: Remote<EngineApi>) => Promise<T>, limit?: number): Promise<T> {
  const handle = startWorker();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let giveUp: (why: string) => void;
  const ended = new Promise<never>((_, reject) => {
    giveUp = (why) => reject(new WorkerGaveUp(why));
    handle.onBreakdown(() => giveUp('The worker crashed.'));
  });
  try {
    // Starting takes long on a slow device, and is not its task's fault.
    await Promise.race([handle.api.started(), ended]);
    if (limit !== undefined) timer = setTimeout(() => giveUp(`Not finished within ${limit} ms.`), limit);
    return await Promise.race([task(handle.api), ended]);
  } finally {
    clearTimeout(timer);
    handle.end();
  }
}
