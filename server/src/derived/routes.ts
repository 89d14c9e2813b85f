import { Router } from 'express';
import { onlyMethods } from '../http/problem';
import type { DerivedStore } from './store';

/** A piece's number in an address; what is none is a piece that is not there. */
const numberOf = (text: string): number => (/^\d{1,6}$/.test(text) ? Number(text) : -1);

export function derivedRoutes(derived: DerivedStore): Router {
  const router = Router();

  router.get('/derived', async (_request, response) => {
    response.json(await derived.list());
  });

  router
    .route('/derived/:sha256/:name/:piece')
    .get(async (request, response) => {
      const { sha256, name, piece } = request.params;
      const { path, mime } = await derived.path(sha256, name, numberOf(piece));
      response.sendFile(path, { headers: { 'Content-Type': mime }, maxAge: 0, dotfiles: 'allow' });
    })
    .put(async (request, response) => {
      const { sha256, name, piece } = request.params;
      response.status(201).json(await derived.put(sha256, name, numberOf(piece), request));
    });

  router.delete('/derived/:sha256/:name', async (request, response) => {
    await derived.remove(request.params.sha256, request.params.name);
    response.status(204).end();
  });
  router.all('/derived', onlyMethods('GET', 'HEAD'));
  router.all('/derived/:sha256/:name', onlyMethods('DELETE'));
  router.all('/derived/:sha256/:name/:piece', onlyMethods('GET', 'HEAD', 'PUT'));
  return router;
}
