import { checkJobChange, checkJobSettings, checkNewJob, checkNewMachine, type StoredMedia } from '@hastig/contract';
import { json, Router, type Response } from 'express';
import { checked } from '../http/checked';
import { onlyMethods, HttpProblem } from '../http/problem';
import type { MediaStore } from '../media/store';
import type { JobFiles } from './files';
import type { Machines } from './machines';
import type { JobStore } from './store';

const LIMIT = '64kb';
/** Milliseconds between two tellings of the list at least, and of nothing at most. */
const SOON = 500;
const QUIET = 15_000;

interface JobRoutesOptions {
  jobs: JobStore;
  machines: Machines;
  files: JobFiles;
  media: MediaStore;
}

/** Jobs and the machines that help, for the interface: on this machine only. */
export function jobRoutes({ jobs, machines, files, media }: JobRoutesOptions): Router {
  const router = Router();
  router
    .route('/jobs')
    .get(async (_request, response) => {
      response.json(await jobs.list());
    })
    .post(json({ limit: LIMIT }), async (request, response) => {
      response.status(201).json(await jobs.add(checked(checkNewJob(request.body))));
    })
    .all(onlyMethods('GET', 'HEAD', 'POST'));

  router
    .route('/jobs/events')
    .get((_request, response) => tell(jobs, response))
    .all(onlyMethods('GET'));

  router
    .route('/jobs/settings')
    .get(async (_request, response) => {
      response.json(await jobs.settings());
    })
    .put(json({ limit: LIMIT }), async (request, response) => {
      response.json(await jobs.set(checked(checkJobSettings(request.body))));
    })
    .all(onlyMethods('GET', 'HEAD', 'PUT'));

  router
    .route('/jobs/:id')
    .get(async (request, response) => {
      response.json(await jobs.one(request.params.id));
    })
    .patch(json({ limit: LIMIT }), async (request, response) => {
      response.json(await jobs.change(request.params.id, checked(checkJobChange(request.body))));
    })
    .delete(async (request, response) => {
      await jobs.remove(request.params.id);
      response.status(204).end();
    })
    .all(onlyMethods('GET', 'HEAD', 'PATCH', 'DELETE'));

  router
    .route('/jobs/:id/log')
    .get(async (request, response) => {
      response.json(await jobs.log(request.params.id));
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/jobs/:id/file')
    .get(async (request, response) => {
      const { file, state } = await jobs.one(request.params.id);
      if (state !== 'done') throw new HttpProblem(409, 'The file isn’t ready yet.');
      response.attachment(file);
      response.sendFile(files.result(request.params.id), { dotfiles: 'allow' });
    })
    .all(onlyMethods('GET', 'HEAD'));

  // What was made becomes footage.
  router
    .route('/jobs/:id/media')
    .post(async (request, response) => {
      const { id, kind, state } = await jobs.one(request.params.id);
      if (state !== 'done') throw new HttpProblem(409, 'The file isn’t ready yet.');
      const stored: StoredMedia =
        kind === 'convert' ? await known(media, await jobs.originalOf(id)) : await media.adoptCopy(files.result(id));
      response.status(201).json(stored);
    })
    .all(onlyMethods('POST'));

  router
    .route('/machines')
    .get(async (_request, response) => {
      response.json(await machines.list());
    })
    .post(json({ limit: LIMIT }), async (request, response) => {
      const { name, scopes, own } = checked(checkNewMachine(request.body));
      response.status(201).json(await machines.letIn(name.trim(), scopes, own));
    })
    .all(onlyMethods('GET', 'HEAD', 'POST'));

  router
    .route('/machines/:id')
    .delete(async (request, response) => {
      await machines.putOut(request.params.id);
      response.status(204).end();
    })
    .all(onlyMethods('DELETE'));
  return router;
}

/** What was converted is footage already. */
async function known(media: MediaStore, sha256: string): Promise<StoredMedia> {
  await media.again(sha256);
  return { sha256, facts: await media.facts(sha256) };
}

/** Tells the list now and whenever something in it changes, as server-sent events (HTML Standard, 9.2). */
function tell(jobs: JobStore, response: Response): void {
  response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
  response.flushHeaders();
  let [timer, busy, again]: [NodeJS.Timeout | undefined, boolean, boolean] = [undefined, false, false];
  let last = '';
  const send = async (): Promise<void> => {
    timer = undefined;
    busy = true;
    try {
      const list = JSON.stringify(await jobs.list());
      if (list !== last) response.write(`data: ${(last = list)}\n\n`);
    } catch {
      // A database that is away is back at the next change.
    }
    busy = false;
    if (again) soon();
  };
  const soon = (): void => {
    again = busy;
    if (!busy) timer ??= setTimeout(() => void send(), SOON);
  };
  // Another server at the same database may have been told of it.
  const quiet = setInterval(() => {
    response.write(': still here\n\n');
    soon();
  }, QUIET);
  jobs.events.on('changed', soon);
  response.on('close', () => {
    jobs.events.off('changed', soon);
    clearInterval(quiet);
    clearTimeout(timer);
  });
  void send();
}
