import type { RequestHandler } from 'express';
import { HttpProblem } from './problem';

const loopback = new Set(['127.0.0.1', 'localhost', '[::1]']);
const reading = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses requests that come by another name than this machine's own (a foreign page that had its name point to
 * loopback), and writes from a page of another origin.
 */
export const guardOrigin: RequestHandler = (request, _response, next) => {
  const host = request.headers.host ?? '';
  if (!loopback.has(host.replace(/:\d+$/, ''))) throw new HttpProblem(421, 'Hastig answers on this machine only.');
  const { origin } = request.headers;
  if (!reading.has(request.method) && origin !== undefined && origin !== `http://${host}`) {
    throw new HttpProblem(403, 'Pages of another origin cannot write here.');
  }
  next();
};

/** Isolates the page, so that it may use shared memory and exact clocks. */
export const isolatePage: RequestHandler = (_request, response, next) => {
  response.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Content-Type-Options': 'nosniff',
  });
  next();
};
