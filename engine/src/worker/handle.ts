import { wrap, type Remote } from 'comlink';
import type { EngineApi } from './api';

/** Where the server has the engine's worker; built from `engine.worker.ts` by `scripts/build`. */
export const WORKER_ADDRESS = '/engine/engine.worker.js';

/** A worker of the engine and the way to end it. */
export interface EngineHandle {
  api: Remote<EngineApi>;
  /** Ends the worker at once and frees all it holds. */
  end(): void;
}

export function startWorker(): EngineHandle {
  const worker = new Worker(new URL(WORKER_ADDRESS, globalThis.location.href), { name: 'engine' });
  return { api: wrap<EngineApi>(worker), end: () => worker.terminate() };
}

/** Does one thing in a worker of its own, which ends with it. */
export async function inWorker<T>(task: (api: Remote<EngineApi>) => Promise<T>): Promise<T> {
  const handle = startWorker();
  try {
    return await task(handle.api);
  } finally {
    handle.end();
  }
}
