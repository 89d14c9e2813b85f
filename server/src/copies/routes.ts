import { Router } from 'express';
import { onlyMethods } from '../http/problem';
import type { CopyStore } from './store';

/** A piece's number in an address; what is none is a piece that is not there. */
const numberOf = (text: string): number => (/^\d{1,6}$/.test(text) ? Number(text) : -1);

export function copyRoutes(copies: CopyStore): Router {
  const router = Router();

  router.get('/copies', async (_request, response) => {
    response.json(await copies.list());
  });

  router
    .route('/copies/:sha256/:piece')
    .get(async (request, response) => {
      const path = await copies.path(request.params.sha256, numberOf(request.params.piece));
      response.sendFile(path, { headers: { 'Content-Type': 'video/mp4' }, maxAge: 0, dotfiles: 'allow' });
    })
    .put(async (request, response) => {
      const { sha256, piece } = request.params;
      response.status(201).json(await copies.put(sha256, numberOf(piece), request));
    });

  router.delete('/copies/:sha256', async (request, response) => {
    await copies.remove(request.params.sha256);
    response.status(204).end();
  });
  router.all('/copies', onlyMethods('GET', 'HEAD'));
  router.all('/copies/:sha256', onlyMethods('DELETE'));
  router.all('/copies/:sha256/:piece', onlyMethods('GET', 'HEAD', 'PUT'));
  return router;
}
