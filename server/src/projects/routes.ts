import { checkProjectPatch, checkVersionName } from '@hastig/contract';
import { Router, text } from 'express';
import { isTooDeep } from '../files/depth';
import type { DemoName } from '../demo';
import { checked } from '../http/checked';
import { HttpProblem, invalid, onlyMethods } from '../http/problem';
import type { WorkPool } from '../work/pool';
import type { ReadyDocument } from '../work/read-document';
import { createdProject, readyOr } from './ready';
import type { MediaStore } from '../media/store';
import type { ProjectStore } from './store';
import { summaries } from './summaries';

/** Largest body of a change; one edit of 10 000 keys is a quarter of it. */
const PATCH_LIMIT = '8mb';
/** Largest body of a version's name. */
const NAME_LIMIT = '8kb';
/** Largest body of a whole project: a film of a thousand clips with some dozens of versions. */
const PROJECT_LIMIT = '64mb';

/** What the database's integers hold. */
const MOST_REVISION = 2 ** 31 - 1;

const noJson = (detail: string): HttpProblem => new HttpProblem(400, 'The request body isn’t valid JSON.', { detail });

function parsedBody(body: unknown): unknown {
  const text = typeof body === 'string' ? body : '';
  if (isTooDeep(text)) throw invalid([{ pointer: '', reason: 'is nested too deep' }]);
  try {
    return JSON.parse(text);
  } catch (error) {
    throw noJson((error as Error).message);
  }
}

function revisionIn(piece: string): number {
  const revision = Number(piece);
  if (!Number.isSafeInteger(revision) || revision < 1 || revision > MOST_REVISION)
    throw invalid([{ pointer: '/revision', reason: 'must be a whole number from 1' }]);
  return revision;
}

interface ProjectRoutesOptions {
  projects: ProjectStore;
  media: MediaStore;
  work: WorkPool;
  /** Called after a project was removed. */
  onRemoved: () => void;
  /** Makes the document of one of the demo's projects, its media stored; undefined where there is no demo. */
  demo?: (name: DemoName) => Promise<ReadyDocument>;
}

const types = ['application/json', 'application/json-patch+json'];

export function projectRoutes({ projects, media, work, onRemoved, demo }: ProjectRoutesOptions): Router {
  const router = Router();

  router
    .route('/projects')
    .get(async (_request, response) => {
      response.json(await summaries(media, await projects.list()));
    })
    .post(text({ limit: PROJECT_LIMIT, type: types }), async (request, response) => {
      const body = typeof request.body === 'string' ? request.body : '';
      const ready = readyOr(await work.readDocument(body, 'new'), noJson);
      response
        .status(201)
        .type('json')
        .send(await createdProject(projects, ready));
    })
    .all(onlyMethods('GET', 'HEAD', 'POST'));

  const demos: Record<string, DemoName> = { '/demo': 'film', '/demo/beats': 'beats', '/demo/path': 'path' };
  for (const [address, name] of Object.entries(demos)) {
    router
      .route(address)
      .post(async (_request, response) => {
        if (!demo) throw invalid([{ pointer: '', reason: 'this server has no demo' }]);
        response
          .status(201)
          .type('json')
          .send(await createdProject(projects, await demo(name)));
      })
      .all(onlyMethods('POST'));
  }

  router
    .route('/projects/removed')
    .get(async (_request, response) => {
      response.json(await summaries(media, await projects.list(true)));
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/projects/removed/:id')
    .post(async (request, response) => {
      await projects.restore(request.params.id);
      response.status(204).end();
    })
    .delete(async (request, response) => {
      await projects.purge(Date.now(), request.params.id);
      onRemoved();
      response.status(204).end();
    })
    .all(onlyMethods('POST', 'DELETE'));

  router
    .route('/projects/:id')
    .get(async (request, response) => {
      response.json(await projects.get(request.params.id));
    })
    .patch(text({ limit: PATCH_LIMIT, type: types }), async (request, response) => {
      const change = checked(checkProjectPatch(parsedBody(request.body)));
      response.json({ revision: await projects.patch(request.params.id, change) });
    })
    .delete(async (request, response) => {
      await projects.remove(request.params.id);
      response.status(204).end();
    })
    .all(onlyMethods('GET', 'HEAD', 'PATCH', 'DELETE'));

  router
    .route('/projects/:id/revisions')
    .get(async (request, response) => {
      response.json(await projects.revisions(request.params.id));
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/projects/:id/revisions/:revision')
    .get(async (request, response) => {
      response.json(await projects.at(request.params.id, revisionIn(request.params.revision)));
    })
    .patch(text({ limit: NAME_LIMIT, type: types }), async (request, response) => {
      const revision = revisionIn(request.params.revision);
      const { name } = checked(checkVersionName(parsedBody(request.body)));
      await projects.name(request.params.id, revision, name);
      response.status(204).end();
    })
    .all(onlyMethods('GET', 'HEAD', 'PATCH'));

  return router;
}
