import { Worker } from 'node:worker_threads';
import workerpool from 'workerpool';
import { probeFile } from './probe-file';
import { readDocument } from './read-document';

/** What runs in a process of its own: work on files and bodies of any size that may have been made to do harm. */
const work = { probeFile, readDocument };
export type Work = typeof work;

/** Bytes of memory that the process may hold. */
const MOST_MEMORY = 700 * 2 ** 20;

// A thread looks on, for this one may be too busy to. Buffers lie outside of what Node limits by itself.
new Worker(
  `setInterval(() => {
     if (process.memoryUsage.rss() > ${MOST_MEMORY}) process.kill(process.pid, 'SIGKILL');
   }, 20);`,
  { eval: true, execArgv: [] },
).unref();

workerpool.worker(work);
