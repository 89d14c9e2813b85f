import { createServer, type RequestListener, type Server } from 'node:http';
import { PROBLEM_MEDIA_TYPE } from '@hastig/contract';
import { HttpProblem } from './problem';

/** A server of an application; what Node would refuse by itself without a word is refused as a problem too. */
export function serverOf(application: RequestListener): Server {
  const server = createServer(application);
  server.on('checkExpectation', (_request, response) => {
    const { status, document } = new HttpProblem(417, 'The request expects what this server doesn’t do.');
    response
      .writeHead(status, { 'Content-Type': PROBLEM_MEDIA_TYPE, Connection: 'close' })
      .end(JSON.stringify(document));
  });
  return server;
}
