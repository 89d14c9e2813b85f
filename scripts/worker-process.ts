import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import type { NewMachineKey } from '@hastig/contract';
import { bundled } from '@hastig/launch';
import { rootFolder, workerMain } from './paths';

/** A worker on this machine, for a server on it. */
export interface WorkerProcess {
  process: ChildProcess;
  /** Ends it and waits until it has. */
  stop(): Promise<void>;
}

interface WorkerSettings {
  /** The server's address. */
  address: string;
  /** Where the server keeps its data, and the worker its own. */
  dataFolder: string;
  name: string;
  /** Further flags of the worker. */
  flags?: readonly string[];
}

/** Milliseconds in which it is to end by itself. */
const PATIENCE = 5000;

/** Lets a worker in at a server and starts it. */
export async function startWorker({ address, dataFolder, name, flags = [] }: WorkerSettings): Promise<WorkerProcess> {
  const answer = await fetch(`${address}/api/machines`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name, own: true }),
  });
  if (!answer.ok) throw new Error(`The worker was not let in: ${await answer.text()}`);
  const { key } = (await answer.json()) as NewMachineKey;
  const folders = ['--folder', join(dataFolder, 'worker'), '--media', join(dataFolder, 'media')];
  const child = spawn(
    process.execPath,
    ['--enable-source-maps', await bundled(workerMain), '--server', address, ...folders, ...flags],
    // Told in the environment: arguments are seen by everybody on the machine.
    { cwd: rootFolder, stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, HASTIG_KEY: key } },
  );
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  return {
    process: child,
    stop: async () => {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
      const patience = setTimeout(() => child.kill('SIGKILL'), PATIENCE);
      await ended;
      clearTimeout(patience);
    },
  };
}
