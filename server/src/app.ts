import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import type { Knex } from 'knex';
import { adoptOlderProxies } from './derived/older-proxies';
import { derivedRoutes } from './derived/routes';
import type { DemoName } from './demo';
import { DerivedStore } from './derived/store';
import { clientFiles } from './http/client-files';
import { guardOrigin, isolatePage } from './http/guard';
import { createJobs, jobFolder, type Jobs } from './jobs';
import { answerErrors, notFound } from './http/problem';
import { mediaRoutes } from './media/routes';
import { MediaStore } from './media/store';
import { Sweep } from './media/sweep';
import { Uploads } from './media/uploads';
import { projectFileRoutes } from './projects/file-routes';
import { projectRoutes } from './projects/routes';
import { ProjectStore } from './projects/store';
import { WorkPool } from './work/pool';
import type { ReadyDocument } from './work/read-document';

export interface AppOptions {
  knex: Knex;
  /** Folder for stored media and unfinished uploads. */
  dataFolder: string;
  /** Folder of the built client; without it the server has only its API. */
  clientFolder?: string;
  /** Largest upload in bytes. */
  maxUploadBytes?: number;
  /** Most that is derived from media, in bytes. */
  maxDerivedBytes?: number;
  /** Makes the document of one of the demo's projects from stored media. */
  demo?: (media: MediaStore, name: DemoName) => Promise<ReadyDocument>;
  /** The module `work/worker.ts` as Node runs it, in processes of its own. */
  worker: string;
}

const DEFAULT_MAX_UPLOAD = 64 * 2 ** 30;
const DEFAULT_MAX_DERIVED = 32 * 2 ** 30;

interface App {
  /** The whole server as an Express application; it listens nowhere yet. */
  express: Express;
  /** As much of it as machines that help may see, from wherever they are. */
  workers: Express;
  jobs: Jobs;
  /** What frees the room that nobody needs; whoever runs the server starts and stops it. */
  sweep: Sweep;
  media: MediaStore;
  projects: ProjectStore;
  /** Ends what runs beside it. */
  stop(): Promise<void>;
}

/** Puts the server together over its database and its folders; nothing runs yet. */
export function createApp(options: AppOptions): App {
  const { knex, dataFolder, clientFolder, maxUploadBytes, maxDerivedBytes, demo, worker } = options;
  const folders = { media: join(dataFolder, 'media'), derived: join(dataFolder, 'derived') };
  const work = new WorkPool(worker);
  const media = new MediaStore(knex, folders.media, work);
  const uploads = new Uploads({
    knex,
    media,
    folder: join(dataFolder, 'uploads'),
    maxBytes: maxUploadBytes ?? DEFAULT_MAX_UPLOAD,
  });
  const projects = new ProjectStore(knex);
  const derived = new DerivedStore(
    media,
    folders.derived,
    adoptOlderProxies(join(dataFolder, 'copies'), folders.derived),
    maxDerivedBytes ?? DEFAULT_MAX_DERIVED,
  );
  const sweep = new Sweep({ knex, uploads, projects, ...folders, onGone: (sha256) => derived.quota.forget(sha256) });
  const jobs = createJobs({ knex, folder: jobFolder(dataFolder), projects, media, uploads });
  const app = express();
  app.disable('x-powered-by');
  app.use(guardOrigin, ...isolatePage);
  app.get('/api/health', async (_request, response) => {
    await knex.raw('select 1');
    response.json({ name: 'hastig', ready: true });
  });
  app.use('/api', mediaRoutes({ media, uploads }));
  app.use('/api', derivedRoutes(derived));
  app.use('/api', projectFileRoutes({ projects, media, uploads, work }));
  app.use('/api', jobs.routes, jobs.workerRoutes);
  app.use(compression());
  app.use(
    '/api',
    projectRoutes({
      ...{ projects, media, work },
      onRemoved: () => sweep.soon(),
      ...(demo ? { demo: (name) => demo(media, name) } : {}),
    }),
  );
  app.use('/api', () => {
    throw notFound('address');
  });
  if (clientFolder) app.use(clientFiles(clientFolder));
  app.use(() => {
    throw notFound('address');
  });
  app.use(answerErrors);
  return {
    ...{ express: app, workers: forWorkers(jobs), sweep, media, projects, jobs },
    stop: async () => {
      await jobs.stop();
      await sweep.stop();
      await projects.settled();
      await work.stop();
    },
  };
}

/** A server for machines that help and for nobody else: each request needs a key. */
function forWorkers({ workerRoutes }: Jobs): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use('/api', workerRoutes);
  app.use(() => {
    throw notFound('address');
  });
  app.use(answerErrors);
  return app;
}
