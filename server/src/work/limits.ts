import { Worker } from 'node:worker_threads';

/** Bytes of memory that a process at work may hold. */
const MOST_MEMORY = 700 * 2 ** 20;

/** How a process is ended that used up its time, or held too much (signal(7)): whoever started it is told the signal. */
export const TIME_IS_UP = 'SIGXCPU';
const TOO_MUCH = 'SIGKILL';

/** Microseconds of a core by which the process is to be done, as it counts them; 0 while nothing has a limit. */
const until = new BigUint64Array(new SharedArrayBuffer(8));

/** Ends this process when it goes beyond its limits. A thread looks on, for the one at work may be too busy to. */
export function watchLimits(): void {
  new Worker(
    `const { workerData: until } = require('node:worker_threads');
     setInterval(() => {
       // Buffers lie outside of what Node limits by itself.
       if (process.memoryUsage.rss() > ${MOST_MEMORY}) process.kill(process.pid, '${TOO_MUCH}');
       const { user, system } = process.cpuUsage();
       const end = Atomics.load(until, 0);
       if (end > 0n && BigInt(user + system) > end) process.kill(process.pid, '${TIME_IS_UP}');
     }, 20);`,
    { eval: true, execArgv: [], workerData: until },
  ).unref();
}

/**
 * Has this process ended if a task takes more than so much of a core. Counted like this, a machine that is busy with other
 * things takes nothing away from it.
 *
 * @param limit milliseconds
 */
export async function within<Result>(limit: number, task: () => Promise<Result>): Promise<Result> {
  const { user, system } = process.cpuUsage();
  Atomics.store(until, 0, BigInt(Math.round(user + system + limit * 1000)));
  try {
    return await task();
  } finally {
    Atomics.store(until, 0, 0n);
  }
}
