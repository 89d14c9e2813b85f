import { join } from 'node:path';
import type { Router } from 'express';
import type { Knex } from 'knex';
import { logFault } from '../http/log';
import type { MediaStore } from '../media/store';
import type { Uploads } from '../media/uploads';
import type { ProjectStore } from '../projects/store';
import { JobFiles } from './files';
import { Machines } from './machines';
import { LOST, PartStore } from './parts';
import { Queue } from './queue';
import { jobRoutes } from './routes';
import { JobStore } from './store';
import { workerRoutes } from './worker-routes';

/** Milliseconds between two looks for machines that were lost, and of looks for what is no longer needed. */
const LOOK = 5000;
const TIDY = 3_600_000;
/** Milliseconds for which a folder is left that belongs to no job. */
const KEPT = 86_400_000;

interface JobsOptions {
  knex: Knex;
  /** Folder for what jobs make. */
  folder: string;
  projects: ProjectStore;
  media: MediaStore;
  uploads: Uploads;
}

/** Work that outlives a tab: orders, the queue, machines that help, and what they make. */
export interface Jobs {
  machines: Machines;
  /** For the interface, and for machines that help. */
  routes: Router;
  workerRoutes: Router;
  /** Looks from now on for machines that were lost. */
  start(): void;
  stop(): Promise<void>;
}

export function createJobs({ knex, folder, projects, media, uploads }: JobsOptions): Jobs {
  const queue = new Queue(knex);
  const files = new JobFiles(folder);
  const machines = new Machines(knex);
  const jobs = new JobStore({ knex, queue, files, projects, uploads });
  const parts = new PartStore({ knex, queue, files, jobs, media });
  const timers: NodeJS.Timeout[] = [];
  const every = (milliseconds: number, task: () => Promise<void>): void => {
    let running = false;
    const timer = setInterval(() => {
      if (running) return;
      running = true;
      task()
        .catch((error: unknown) => logFault('Jobs', error))
        .finally(() => (running = false));
    }, milliseconds);
    timers.push(timer.unref());
  };
  // Where this server or its database was away, machines are given time to be heard again.
  let heardFrom = 0;
  const look = async (): Promise<void> => {
    if (Date.now() < heardFrom) return;
    try {
      await parts.giveUpLost();
    } catch (error) {
      heardFrom = Date.now() + LOST;
      throw error;
    }
  };
  const tidy = async (): Promise<void> => {
    await queue.tidy();
    const known = new Set(await knex('jobs').pluck('id'));
    for (const id of await files.jobsBefore(Date.now() - KEPT)) if (!known.has(id)) await files.remove(id);
  };
  return {
    machines,
    routes: jobRoutes({ jobs, machines, files, media }),
    workerRoutes: workerRoutes({ knex, parts, jobs, machines, files, media }),
    start: () => {
      heardFrom = Date.now() + LOST;
      every(LOOK, look);
      every(TIDY, tidy);
    },
    stop: async () => {
      timers.forEach(clearInterval);
      await queue.stop();
    },
  };
}

/** The folder for jobs among the server's data. */
export const jobFolder = (dataFolder: string): string => join(dataFolder, 'jobs');
