import { PROJECT_FILE_KIND } from '@hastig/contract';
import { Router, type Response } from 'express';
import { onlyMethods } from '../http/problem';
import type { MediaStore } from '../media/store';
import type { Uploads } from '../media/uploads';
import type { WorkPool } from '../work/pool';
import { readProject } from './read-archive';
import { createdProject } from './ready';
import type { ProjectStore } from './store';
import { missingMedia } from './missing';
import { projectFile, writeArchive } from './write-archive';

interface FileRoutesOptions {
  projects: ProjectStore;
  media: MediaStore;
  uploads: Uploads;
  work: WorkPool;
}

// Signs that file names or the header that carries them do not take.
const fileName = (name: string, ending: string): string =>
  `${name.replace(/[/\\:*?"<>|\r\n]/g, ' ').trim() || PROJECT_FILE_KIND}.${ending}`;

function asDownload(response: Response, name: string, type: string): void {
  response.attachment(name);
  response.type(type);
}

/** Projects as files: out as JSON or with their media, in from an upload. */
export function projectFileRoutes({ projects, media, uploads, work }: FileRoutesOptions): Router {
  const router = Router();

  router
    .route('/projects/:id/file')
    .get(async (request, response) => {
      const { document } = await projects.get(request.params.id);
      asDownload(response, fileName(document.name, 'json'), 'application/json');
      response.send(JSON.stringify(projectFile(document), undefined, 1));
    })
    .all(onlyMethods('GET', 'HEAD'));

  // Files of its sources that are gone or not whole: they can be found again by importing them once more.
  router
    .route('/projects/:id/missing')
    .get(async (request, response) => {
      const { document } = await projects.get(request.params.id);
      response.json(await missingMedia(document, media));
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/projects/:id/archive')
    .get(async (request, response) => {
      const { document } = await projects.get(request.params.id);
      await writeArchive(document, media, response, () =>
        asDownload(response, fileName(document.name, 'zip'), 'application/zip'),
      );
    })
    .all(onlyMethods('GET', 'HEAD'));

  router
    .route('/uploads/:id/project')
    .post(async (request, response) => {
      // The upload is there until the project is, so that what passes can be tried again.
      const body = await uploads.withFile(request.params.id, async (path) =>
        createdProject(projects, await readProject(path, media, work)),
      );
      response.status(201).type('json').send(body);
    })
    .all(onlyMethods('POST'));

  return router;
}
