import { PROBLEM_MEDIA_TYPE, problemTypes, type FieldError, type Problem } from '@hastig/contract';
import type { ErrorRequestHandler, Response } from 'express';

/** An answer that says no, as a problem document (RFC 9457). Further members go into the document as they are. */
export class HttpProblem extends Error {
  override readonly name = 'HttpProblem';

  constructor(
    readonly status: number,
    readonly title: string,
    readonly more: Partial<Problem> & Record<string, unknown> = {},
  ) {
    super(title);
  }

  get document(): Problem {
    return { type: 'about:blank', title: this.title, status: this.status, ...this.more };
  }
}

export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, `There is no such ${what}.`, { type: problemTypes.notFound });

export const invalid = (errors: FieldError[]): HttpProblem =>
  new HttpProblem(422, 'What was sent is not valid.', {
    type: problemTypes.invalid,
    detail: errors.map(({ pointer, reason }) => `${pointer || '/'} ${reason}`).join('; '),
    errors,
  });

export function sendProblem(response: Response, problem: HttpProblem): void {
  response.status(problem.status).type(PROBLEM_MEDIA_TYPE).send(JSON.stringify(problem.document));
}

interface BodyError extends Error {
  status?: number;
  type?: string;
  code?: string;
}

/** The problem that an error stands for; what is nobody's fault but ours says nothing of its inside. */
export function problemOf(error: BodyError): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (error.code === 'ENOSPC') {
    const detail = 'Free some space and try again; what was sent so far is kept.';
    return new HttpProblem(507, 'The disk is full.', { type: problemTypes.storageFull, detail });
  }
  if (error.type === 'entity.parse.failed')
    return new HttpProblem(400, 'The body is not valid JSON.', { detail: error.message });
  if (error.type === 'entity.too.large') return new HttpProblem(413, 'The body is too large.');
  const status = error.status ?? 500;
  if (status < 500) return new HttpProblem(status, error.message);
  return new HttpProblem(500, 'Something went wrong on the server.');
}

/** Answers every error as a problem document; Express tells it from other handlers by its four arguments. */
export const answerErrors: ErrorRequestHandler = (error: BodyError, request, response, next) => {
  const problem = problemOf(error);
  if (problem.status >= 500) console.error(`${request.method} ${request.path}:`, error);
  if (response.headersSent) next(error);
  else sendProblem(response, problem);
};
