import { join } from 'node:path';
import { Router, type RequestHandler } from 'express';
import expressStaticGzip from 'express-static-gzip';
import { HttpProblem, notFound } from './problem';

/** Refuses an address that is no text, before anything looks for a file by it. */
const readableAddress: RequestHandler = ({ path }, _response, next) => {
  try {
    decodeURIComponent(path);
  } catch {
    throw new HttpProblem(400, 'This address isn’t valid.');
  }
  next();
};

type StaticOptions = expressStaticGzip.ExpressStaticGzipOptions['serveStatic'];

/** Files of a folder; compressed where the build has laid a compressed copy beside them. */
function files(folder: string, serveStatic: StaticOptions): RequestHandler {
  return expressStaticGzip(folder, { enableBrotli: true, orderPreference: ['br'], serveStatic });
}

/** Serves the built client from its folder: its files, and its page at every other address. */
export function clientFiles(folder: string): Router {
  const router = Router();
  router.use(readableAddress);
  // Files with a digest in their names never change; all others are asked for anew.
  router.use('/_expo', files(join(folder, '_expo'), { immutable: true, maxAge: '1y' }));
  router.use('/_expo', () => {
    throw notFound('file');
  });
  router.use(files(folder, { cacheControl: true, maxAge: 0 }));
  router.get('/{*path}', (_request, response) => response.sendFile(join(folder, 'index.html'), { dotfiles: 'allow' }));
  return router;
}
