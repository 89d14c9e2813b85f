import { Router } from 'express';
import { notFound, onlyMethods } from '../http/problem';
import type { MediaStore } from './store';
import type { Uploads } from './uploads';

export function mediaRoutes({ media, uploads }: { media: MediaStore; uploads: Uploads }): Router {
  const router = Router();
  router.route('/uploads').options(uploads.handle).post(uploads.handle).all(onlyMethods('POST', 'OPTIONS'));
  router
    .route('/uploads/:id')
    .options(uploads.handle)
    .head(uploads.handle)
    .patch(uploads.handle)
    .delete(uploads.handle)
    .all(onlyMethods('HEAD', 'PATCH', 'DELETE', 'OPTIONS'));

  router
    .route('/uploads/:id/media')
    .post(async (request, response) => {
      response.status(201).json(await uploads.finish(request.params.id));
    })
    .all(onlyMethods('POST'));

  router.get('/media', async (_request, response) => {
    response.json(await media.list());
  });

  router.get('/media/:sha256', async (request, response) => {
    const { sha256 } = request.params;
    const { mime } = await media.facts(sha256);
    // The name is the content's digest, so what a browser holds of it never ages. Ranges are Express's work.
    const readable = await media.readable(sha256);
    if (!readable) throw notFound('media');
    response.sendFile(readable.path, {
      headers: { 'Content-Type': mime.split(';')[0]!, 'Cache-Control': 'private, max-age=31536000, immutable' },
      cacheControl: false,
      dotfiles: 'allow',
    });
  });

  router.get('/media/:sha256/facts', async (request, response) => {
    response.json(await media.facts(request.params.sha256));
  });
  router.all(['/media', '/media/:sha256', '/media/:sha256/facts'], onlyMethods('GET', 'HEAD'));
  return router;
}
