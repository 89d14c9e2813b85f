import { Router, type Response } from 'express';
import type { MediaStore } from '../media/store';
import type { Uploads } from '../media/uploads';
import { projectFile, readProject, writeArchive } from './archive';
import type { ProjectStore } from './store';

export interface FileRoutesOptions {
  projects: ProjectStore;
  media: MediaStore;
  uploads: Uploads;
}

// Signs that file names or the header that carries them do not take.
const fileName = (name: string, ending: string): string =>
  `${name.replace(/[/\\:*?"<>|\r\n]/g, ' ').trim() || 'project'}.${ending}`;

function asDownload(response: Response, name: string, type: string): void {
  response.attachment(name);
  response.type(type);
}

/** Projects as files: out as JSON or with their media, in from an upload. */
export function projectFileRoutes({ projects, media, uploads }: FileRoutesOptions): Router {
  const router = Router();

  router.get('/projects/:id/file', async (request, response) => {
    const { document } = await projects.get(request.params.id);
    asDownload(response, fileName(document.name, 'json'), 'application/json');
    response.send(JSON.stringify(projectFile(document), undefined, 1));
  });

  router.get('/projects/:id/archive', async (request, response) => {
    const { document } = await projects.get(request.params.id);
    asDownload(response, fileName(document.name, 'zip'), 'application/zip');
    try {
      await writeArchive(document, media, response);
    } catch (error) {
      // Once it has begun, the only way to say that it is not whole is to break it off.
      if (!response.headersSent) throw error;
      response.destroy();
    }
  });

  router.post('/uploads/:id/project', async (request, response) => {
    const document = await uploads.withFile(request.params.id, (path) => readProject(path, media));
    response.status(201).json(await projects.create(document));
  });

  return router;
}
