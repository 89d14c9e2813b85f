import { checkNewProject, checkProjectPatch, type Checked, type ProjectDocument } from '@hastig/contract';
import { newProject } from '@hastig/core';
import { json, Router } from 'express';
import { invalid } from '../http/problem';
import { wholeDocument, type ProjectStore } from './store';

/** Largest project body: far more than 10 000 keys need. */
const BODY_LIMIT = '16mb';

/** What the database's integers hold. */
const MOST_REVISION = 2 ** 31 - 1;

function checked<T>(result: Checked<T>): T {
  if (!result.ok) throw invalid(result.errors);
  return result.value;
}

export interface ProjectRoutesOptions {
  projects: ProjectStore;
  /** Called after a project was removed. */
  onRemoved: () => void;
  /** Makes the demo's document, its media stored; undefined where there is no demo. */
  demo?: () => Promise<ProjectDocument>;
}

export function projectRoutes({ projects, onRemoved, demo }: ProjectRoutesOptions): Router {
  const router = Router();
  router.use(json({ limit: BODY_LIMIT, type: ['application/json', 'application/json-patch+json'] }));

  router.get('/projects', async (_request, response) => {
    response.json(await projects.list());
  });

  router.post('/projects', async (request, response) => {
    const { document, name } = checked(checkNewProject(request.body));
    response.status(201).json(await projects.create(document ? wholeDocument(document) : newProject(name!.trim())));
  });

  router.post('/demo', async (_request, response) => {
    if (!demo) throw invalid([{ pointer: '', reason: 'this server has no demo' }]);
    response.status(201).json(await projects.create(await demo()));
  });

  router.get('/projects/:id', async (request, response) => {
    response.json(await projects.get(request.params.id));
  });

  router.get('/projects/:id/revisions', async (request, response) => {
    response.json(await projects.revisions(request.params.id));
  });

  router.get('/projects/:id/revisions/:revision', async (request, response) => {
    const revision = Number(request.params.revision);
    if (!Number.isSafeInteger(revision) || revision < 1 || revision > MOST_REVISION) {
      throw invalid([{ pointer: '/revision', reason: 'must be a whole number from 1' }]);
    }
    response.json(await projects.at(request.params.id, revision));
  });

  router.patch('/projects/:id', async (request, response) => {
    const { revision, patch } = checked(checkProjectPatch(request.body));
    response.json({ revision: await projects.patch(request.params.id, revision, patch) });
  });

  router.delete('/projects/:id', async (request, response) => {
    await projects.remove(request.params.id);
    onRemoved();
    response.status(204).end();
  });

  return router;
}
