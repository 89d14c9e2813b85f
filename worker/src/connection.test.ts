import { createHash, randomBytes } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TakenPart } from '@hastig/contract';
import { Connection, isFull, Refused } from './connection';

type Answer = (request: IncomingMessage, response: ServerResponse, body: Buffer) => void;

const part = { id: 'p', lease: 'l', file: 'Film.mp4', task: { do: 'whole' }, media: [] } as TakenPart;
const digest = (content: Buffer): string => createHash('sha256').update(content).digest('hex');

let server: Server;
let folder: string;
let connection: Connection;
let answer: Answer;
let asked: string[];
const stop = new AbortController();

beforeEach(async () => {
  asked = [];
  folder = await mkdtemp(join(tmpdir(), 'hastig-worker-'));
  server = createServer((request, response) => {
    const pieces: Buffer[] = [];
    request.on('data', (piece: Buffer) => pieces.push(piece));
    request.on('end', () => {
      asked.push(`${request.method} ${request.url}`);
      answer(request, response, Buffer.concat(pieces));
    });
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  connection = new Connection(`http://127.0.0.1:${port}`, 'key', stop.signal);
});
afterEach(async () => {
  server.closeAllConnections();
  server.close();
  await rm(folder, { recursive: true, force: true });
});

it('asks again while the server is away, and not what it refuses', async () => {
  answer = (_, response) => {
    response.statusCode = asked.length < 3 ? 503 : 204;
    response.end();
  };
  expect(await connection.next({ cores: 1, codecs: [], can: [] })).toBeUndefined();
  expect(asked).toEqual(Array(3).fill('POST /api/worker/next'));
  answer = (_, response) => {
    response.statusCode = 507;
    response.end(JSON.stringify({ title: 'The disk is full.', detail: 'Free some space.' }));
  };
  const refused = await connection
    .done('p', { lease: 'l', bytes: 0, frames: 0, took: 0 })
    .catch((error: unknown) => error);
  expect(refused).toBeInstanceOf(Refused);
  expect([(refused as Refused).message, isFull(refused)]).toEqual(['The disk is full. Free some space.', true]);
  expect(asked.length).toBe(4);
});

it('sends a file in pieces, one of which got lost', async () => {
  const content = randomBytes(20 * 2 ** 20);
  await writeFile(join(folder, 'made'), content);
  const arrived = Buffer.alloc(content.length);
  answer = (request, response, body) => {
    if (asked.length === 2) return void request.socket.destroy();
    body.copy(arrived, Number(new URL(request.url!, 'http://x').searchParams.get('position')));
    response.statusCode = 204;
    response.end();
  };
  const sent = await connection.send(part, join(folder, 'made'));
  expect(sent).toEqual({ bytes: content.length, sha256: digest(content) });
  expect(arrived.equals(content)).toBe(true);
  expect(asked.length).toBe(4);
});

it('goes on with a file where it broke off, and takes nothing that is not what it should be', async () => {
  const content = randomBytes(300_000);
  answer = (request, response) => {
    const from = Number(/bytes=(\d+)-/.exec(request.headers.range ?? '')?.[1] ?? 0);
    response.statusCode = from > 0 ? 206 : 200;
    response.setHeader('Content-Length', content.length - from);
    if (asked.length > 1) return void response.end(content.subarray(from));
    response.write(content.subarray(0, 200_000), () => setTimeout(() => request.socket.destroy(), 50));
  };
  const path = join(folder, 'media');
  await connection.fetchTo(part, 'media/x', path, digest(content));
  expect((await readFile(path)).equals(content)).toBe(true);
  expect(asked.length).toBe(2);
  answer = (_, response) => void response.end('marbles');
  await expect(connection.fetchTo(part, 'media/y', join(folder, 'other'), digest(content))).rejects.toThrow('isn’t what it should be'); // prettier-ignore
  expect(await readdir(folder)).toEqual(['media']);
});
