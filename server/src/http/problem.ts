import { STATUS_CODES } from 'node:http';
import { PROBLEM_MEDIA_TYPE, problemTypes, type FieldError, type Problem } from '@hastig/contract';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import { logFault } from './log';

/** An answer that says no, as a problem document (RFC 9457). Further members go into the document as they are. */
export class HttpProblem extends Error {
  override readonly name = 'HttpProblem';

  constructor(
    readonly status: number,
    readonly title: string,
    readonly more: Partial<Problem> & Record<string, unknown> = {},
    readonly headers: Readonly<Record<string, string>> = {},
  ) {
    super(title);
  }

  get document(): Problem {
    return { type: 'about:blank', title: this.title, status: this.status, ...this.more };
  }
}

export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, `This ${what} doesn’t exist.`, { type: problemTypes.notFound });

export const invalid = (errors: FieldError[]): HttpProblem =>
  new HttpProblem(422, 'The request isn’t valid.', {
    type: problemTypes.invalid,
    detail: errors.map(({ pointer, reason }) => `${pointer || '/'} ${reason}`).join('; '),
    errors,
  });

const storageFull = (): HttpProblem =>
  new HttpProblem(507, 'The disk is full.', {
    type: problemTypes.storageFull,
    detail: 'Hastig has no space left for its data. Free some space and try again.',
  });

/** Seconds after which a client may ask again. */
const RETRY_AFTER = 2;

const unavailable = (): HttpProblem =>
  new HttpProblem(
    503,
    'The database can’t be reached.',
    {
      type: problemTypes.unavailable,
      detail: 'The database isn’t answering. Hastig keeps trying; if this goes on, restart Hastig.',
    },
    { 'Retry-After': String(RETRY_AFTER) },
  );

/** Answers what an address does not do (RFC 9110, 15.5.6). */
export const onlyMethods =
  (...methods: readonly string[]): RequestHandler =>
  (request, response) => {
    const allow = methods.join(', ');
    if (request.method === 'OPTIONS') response.set('Allow', allow).status(204).end();
    else throw new HttpProblem(405, `This address doesn’t support ${request.method}.`, {}, { Allow: allow });
  };

function sendProblem(response: Response, { status, document, headers }: HttpProblem): void {
  response.status(status).set(headers).type(PROBLEM_MEDIA_TYPE).send(JSON.stringify(document));
}

interface BodyError extends Error {
  status?: number;
  type?: string;
  code?: string;
}

/** No room left: of the file system (errno), and of PostgreSQL (class 53, `disk_full`). */
const fullCodes = new Set(['ENOSPC', 'EDQUOT', '53100']);
/** Text that PostgreSQL does not keep (`untranslatable_character`, `invalid_text_representation`, `character_not_in_repertoire`). */
const textCodes = new Set(['22P05', '22P02', '22021']);

// PostgreSQL: class 08, connection exception (which a driver's fault without a code is given, see `db/client.ts`); class 57, operator
// intervention (shut down, starting); 53300, too many connections; 40001 and 40P01, another was quicker; 55P03, a lock was not to be had.
function isDatabaseAway({ code = '', name }: BodyError): boolean {
  return (
    /^(08|57P)/.test(code) ||
    ['53300', '40001', '40P01', '55P03', '25P02', '25P03'].includes(code) ||
    name === 'KnexTimeoutError' ||
    ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'].includes(code)
  );
}

/** The problem that an error stands for; what is nobody's fault but ours says nothing of its inside. */
export function problemOf(error: BodyError): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (fullCodes.has(error.code ?? '')) return storageFull();
  if (textCodes.has(error.code ?? ''))
    return invalid([{ pointer: '', reason: 'contains a character that can’t be stored' }]);
  if (isDatabaseAway(error)) return unavailable();
  if (error.type === 'entity.parse.failed')
    return new HttpProblem(400, 'The request body isn’t valid JSON.', { detail: error.message });
  if (error.type === 'entity.too.large') return new HttpProblem(413, 'The request body is too large.');
  const status = error.status ?? 500;
  // What the libraries say may name paths of this machine; the status says enough.
  if (status >= 400 && status < 500)
    return status === 404 ? notFound('address') : new HttpProblem(status, titleOf(status));
  return new HttpProblem(500, 'Something went wrong on the server.');
}

/** Whether what went wrong may go well when it is tried again: a database that is away, a full disk, a fault of ours. */
export function willPass(error: unknown): boolean {
  return problemOf(error as BodyError).status >= 500;
}

/** A status in its own words. */
export function titleOf(status: number): string {
  const phrase = (STATUS_CODES[status] ?? 'Refused').toLowerCase();
  return `${phrase.charAt(0).toUpperCase()}${phrase.slice(1)}.`;
}

/** Answers every error as a problem document; Express tells it from other handlers by its four arguments. */
export const answerErrors: ErrorRequestHandler = (error: BodyError, request, response, next) => {
  // Whoever asked has gone: there is nobody to answer.
  if (request.destroyed && response.destroyed) return;
  const problem = problemOf(error);
  if (problem.status >= 500) logFault(`${request.method} ${request.path}`, error);
  if (response.headersSent) next(error);
  else sendProblem(response, problem);
};
