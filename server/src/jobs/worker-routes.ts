import { checkMachineFacts, checkPartDone, checkPartFailed, checkPartHeard } from '@hastig/contract';
import { json, Router, type Request, type Response } from 'express';
import type { Knex } from 'knex';
import { checked } from '../http/checked';
import { invalid, notFound, onlyMethods } from '../http/problem';
import type { MediaStore } from '../media/store';
import type { JobFiles } from './files';
import type { Machines } from './machines';
import type { PartStore } from './parts';
import type { MachineRow } from './rows';
import type { JobStore } from './store';

const LIMIT = '64kb';
/** Milliseconds that a machine waits for something to do before it is told that there is nothing. */
const PATIENCE = 10_000;
/** Milliseconds after which it is looked anew: another server at the same database may have more to do. */
const LOOK = 2000;

interface WorkerRoutesOptions {
  knex: Knex;
  parts: PartStore;
  jobs: JobStore;
  machines: Machines;
  files: JobFiles;
  media: MediaStore;
}

/** What machines that help ask and tell. All of it wants a key. */
export function workerRoutes({ knex, parts, jobs, machines, files, media }: WorkerRoutesOptions): Router {
  const router = Router();
  const who = (response: Response): MachineRow => (response.locals as { machine: MachineRow }).machine;
  const leaseIn = (request: Request): string => String(request.query.lease);

  // Before anything else is read: nothing is told to who has none.
  router.use('/worker', async (request, response, next) => {
    response.locals.machine = await machines.known(request.headers.authorization);
    next();
  });

  router
    .route('/worker/next')
    .post(json({ limit: LIMIT }), async (request, response) => {
      const machine = who(response);
      const facts = checked(checkMachineFacts(request.body));
      await machines.heard(machine.id, facts);
      const asked = Number(request.query.wait ?? PATIENCE);
      const wait = asked >= 0 ? Math.min(PATIENCE, asked) : 0;
      const [until, left] = [Date.now() + wait, gone(response)];
      for (;;) {
        const changed = more(jobs, Math.min(LOOK, until - Date.now()), left);
        const part = left.aborted ? undefined : await parts.next(machine, facts);
        if (part) return void response.json(part);
        await changed;
        if (left.aborted || Date.now() >= until) return void response.status(204).end();
      }
    })
    .all(onlyMethods('POST'));

  router
    .route('/worker/parts/:id/heard')
    .post(json({ limit: LIMIT }), async (request, response) => {
      const machine = who(response);
      await machines.heard(machine.id);
      response.json({ wish: await parts.heard(machine, request.params.id, checked(checkPartHeard(request.body))) });
    })
    .all(onlyMethods('POST'));

  router
    .route('/worker/parts/:id/file')
    .put(async (request, response) => {
      const { job } = await parts.leased(knex, who(response), request.params.id, leaseIn(request));
      const position = Number(request.query.position);
      if (!Number.isSafeInteger(position) || position < 0)
        throw invalid([{ pointer: '/position', reason: 'must be a whole number from 0' }]);
      await files.write(job.id, request.params.id, leaseIn(request), position, request);
      response.status(204).end();
    })
    .all(onlyMethods('PUT'));

  // A part that is joined to others, for who joins them.
  router
    .route('/worker/parts/:id/inputs/:input')
    .get(async (request, response) => {
      const { id, input } = request.params;
      const { job } = await parts.leased(knex, who(response), id, leaseIn(request));
      const mine = await knex('job_parts').where({ job_id: job.id, state: 'done' }).pluck('id');
      if (!mine.includes(input)) throw notFound('part');
      response.sendFile(files.part(job.id, input), { dotfiles: 'allow' });
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/worker/parts/:id/media/:sha256')
    .get(async (request, response) => {
      const { id, sha256 } = request.params;
      const { job } = await parts.leased(knex, who(response), id, leaseIn(request));
      const path = !job.media.includes(sha256)
        ? undefined
        : job.kind === 'convert'
          ? files.original(job.id)
          : (await media.readable(sha256))?.path;
      if (!path) throw notFound('media');
      response.sendFile(path, { dotfiles: 'allow' });
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/worker/parts/:id/done')
    .post(json({ limit: LIMIT }), async (request, response) => {
      await parts.done(who(response), request.params.id, checked(checkPartDone(request.body)));
      response.status(204).end();
    })
    .all(onlyMethods('POST'));

  router
    .route('/worker/parts/:id/failed')
    .post(json({ limit: LIMIT }), async (request, response) => {
      await parts.failed(who(response), request.params.id, checked(checkPartFailed(request.body)));
      response.status(204).end();
    })
    .all(onlyMethods('POST'));
  return router;
}

/** Aborted when whoever asked has gone. */
function gone(response: Response): AbortSignal {
  const stop = new AbortController();
  response.once('close', () => stop.abort());
  return stop.signal;
}

/** Resolves when there may be more to do, some milliseconds have passed, or nobody waits any longer. */
function more(jobs: JobStore, most: number, left: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const end = (): void => {
      clearTimeout(timer);
      jobs.events.off('more', end);
      left.removeEventListener('abort', end);
      resolve();
    };
    const timer = setTimeout(end, most);
    jobs.events.on('more', end);
    left.addEventListener('abort', end);
  });
}
