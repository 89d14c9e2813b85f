import { Worker } from 'node:worker_threads';

const spin = 'for (;;) Math.sqrt(2);';

/** Keeps one core busy, as another program would, for as long as a piece of work lasts. */
export async function withBusyCore<Result>(work: () => Promise<Result>): Promise<Result> {
  const worker = new Worker(spin, { eval: true });
  try {
    return await work();
  } finally {
    await worker.terminate();
  }
}
