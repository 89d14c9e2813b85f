import { PROBLEM_MEDIA_TYPE } from '@hastig/contract';
import { Server } from '@tus/server';
import { HttpProblem, problemOf, titleOf } from '../http/problem';
import { logFault } from '../http/log';
import { UploadLocks } from './upload-locks';
import type { UploadStore } from './upload-store';

/** Where uploads are made, by the tus resumable upload protocol 1.0. */
const UPLOAD_PATH = '/api/uploads';

/** What the protocol's package throws: a status and a text; or an error of the system. */
type Fault = Error | { status_code: number; body: string };

function problemOfFault(error: Fault): HttpProblem {
  if ('status_code' in error) {
    const { status_code: status, body } = error;
    return new HttpProblem(status, status === 404 || status === 410 ? 'This upload doesn’t exist.' : titleOf(status), {
      detail: body.trim(),
    });
  }
  return problemOf(error);
}

/** The protocol's server; what it refuses it refuses as a problem document, and only pages of this server may ask it. */
export class UploadProtocol extends Server {
  constructor(store: UploadStore, maxBytes: number) {
    super({
      path: UPLOAD_PATH,
      datastore: store,
      maxSize: maxBytes,
      locker: new UploadLocks(),
      relativeLocation: true,
      allowedOrigins: () => false,
      onResponseError: (_request, error) => {
        const problem = problemOfFault(error as Fault);
        if (problem.status === 500) logFault('upload', error);
        return { status_code: problem.status, body: JSON.stringify(problem.document) };
      },
    });
  }

  // All it refuses comes through here; some of it is text of its own.
  override write(...[context, headers, status, body = '']: Parameters<Server['write']>): ReturnType<Server['write']> {
    if (status < 400) return super.write(context, headers, status, body);
    headers.set('Content-Type', PROBLEM_MEDIA_TYPE);
    const { document } = new HttpProblem(status, titleOf(status), { detail: body.trim() });
    return super.write(context, headers, status, body.startsWith('{') ? body : JSON.stringify(document));
  }
}
