import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { HttpProblem } from './problem';

const loopback = new Set(['127.0.0.1', 'localhost', '[::1]']);
/** What a browser says of requests that come from a page of this server, or from whoever typed the address (Fetch Metadata, W3C). */
const own = new Set(['same-origin', 'none']);
const reading = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses requests that come by another name than this machine's own (a foreign page that had its name point to
 * loopback), and writes from a page of another origin.
 */
export const guardOrigin: RequestHandler = (request, _response, next) => {
  const host = request.headers.host ?? '';
  if (!loopback.has(host.replace(/:\d+$/, '')))
    throw new HttpProblem(421, 'Hastig only answers requests from this machine.');
  const { origin, 'sec-fetch-site': site } = request.headers;
  const fromOther =
    (origin !== undefined && origin !== `http://${host}`) || (site !== undefined && !own.has(`${site}`));
  if (!reading.has(request.method) && fromOther) {
    throw new HttpProblem(403, 'Pages from other origins can’t write here.');
  }
  next();
};

/**
 * Isolates the page, so that it may use shared memory and exact clocks, and lets it load and do nothing but what is its own:
 * workers and what they make (`blob:`), WebAssembly, styles set by script.
 */
export const isolatePage: RequestHandler[] = [
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'", 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'", 'data:'],
        connectSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    referrerPolicy: { policy: 'no-referrer' },
    xFrameOptions: { action: 'deny' },
    // It is served without TLS, on loopback.
    strictTransportSecurity: false,
  }),
  (_request, response, next) => {
    response.set(
      'Permissions-Policy',
      ['camera', 'microphone', 'geolocation', 'payment', 'usb', 'display-capture']
        .map((name) => `${name}=()`)
        .join(', '),
    );
    next();
  },
];
