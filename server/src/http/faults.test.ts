import { mkdir, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { join } from 'node:path';
import { readFile } from 'node:fs/promises';
import type { Problem, StoredMedia, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';
import { createApp } from '..';
import { connect } from '../db/database';
import { UploadStore } from '../media/upload-store';
import { logFault } from './log';
import { problemOf } from './problem';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const api = () => request(server.address);

async function projectWithMedia(): Promise<StoredProject & { sha256: string }> {
  const id = await upload(server.address, await readFile(fixture('plates-24.mp4')));
  const media = (await api().post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
  const document = addSource(newProject('Film'), { id: 's', name: 'plates.mp4', ...media }, 'c');
  const { body } = await api().post('/api/projects').send({ document }).expect(201);
  return { ...(body as StoredProject), sha256: media.sha256 };
}

describe('what a browser may do with the page', () => {
  it('is said by headers: nothing of others is loaded, nobody frames it, nobody is told where one came from', async () => {
    const { headers } = await api().get('/api/health').expect(200);
    const policy = headers['content-security-policy']!;
    for (const part of ["default-src 'self'", "frame-ancestors 'none'", "object-src 'none'"]) {
      expect(policy).toContain(part);
    }
    expect(headers['referrer-policy']).toBe('no-referrer');
    expect(headers['permissions-policy']).toContain('camera=()');
  });

  it('is not told to pages of other origins by the upload protocol', async () => {
    const { headers } = await api()
      .post('/api/uploads')
      .set({ 'Tus-Resumable': '1.0.0', 'Upload-Length': '10' })
      .expect(201);
    expect(headers).not.toHaveProperty('access-control-allow-origin');
  });
});

describe('a refusal is a problem document (RFC 9457)', () => {
  it.each([
    ['GET', '/api/nothing', 404],
    ['GET', '/_expo/x', 404],
    ['PUT', '/api/projects', 405],
    ['POST', '/api/projects/00000000-0000-4000-8000-000000000000', 405],
    ['DELETE', '/api/uploads/0123.json', 404],
    ['DELETE', `/api/uploads/${'0'.repeat(32)}`, 404],
    ['PATCH', `/api/uploads/${'0'.repeat(32)}`, 403],
    ['GET', `/api/uploads/${'0'.repeat(32)}`, 405],
    ['HEAD', `/api/uploads/${'0'.repeat(32)}`, 404],
    ['POST', '/api/uploads', 400],
    ['GET', '/api/projects/%ff', 400],
    ['GET', `/api/media/${'a'.repeat(64)}`, 404],
    ['GET', `/api/derived/proxy-1/${'a'.repeat(64)}/1`, 404],
  ] as const)('%s %s: %i, without a path of this machine', async (method, path, status) => {
    const answer = await fetch(`${server.address}${path}`, { method, headers: { 'Tus-Resumable': '1.0.0' } });
    expect([answer.status, answer.headers.get('Content-Type')?.split(';')[0]]).toEqual([
      status,
      'application/problem+json',
    ]);
    if (method === 'HEAD') return;
    const text = await answer.text();
    expect(JSON.parse(text)).toMatchObject({ status, title: expect.any(String) });
    expect(text).not.toContain(server.dataFolder);
    expect(text).not.toMatch(/ENOENT|node_modules|\/work\//);
  });

  it('says which methods an address takes', async () => {
    const { headers } = await api().put('/api/demo').expect(405);
    expect(headers.allow).toBe('POST');
  });
});

describe('text that no database keeps', () => {
  it.each([
    ['NUL', 'a\0b'],
    ['half a pair', 'a\ud83db'],
  ])('%s is refused with its field, wherever it stands', async (_, name) => {
    const body = JSON.stringify({ name }).replace('\ud83d', '\\ud83d');
    const made = await api().post('/api/projects').set('Content-Type', 'application/json').send(body).expect(422);
    expect((made.body as Problem).errors).toEqual([
      { pointer: '/name', reason: 'contains a character that can’t be stored' },
    ]);
    const { id } = (await api().post('/api/projects').send({ name: 'Film' }).expect(201)).body as StoredProject;
    const text = JSON.stringify(name).replace('\ud83d', '\\ud83d');
    // Put in and taken out again: the document is right, the patch is not.
    const patch = `[{"op":"replace","path":"/name","value":${text}},{"op":"replace","path":"/name","value":"Film"}]`;
    await api()
      .patch(`/api/projects/${id}`)
      .set('Content-Type', 'application/json')
      .send(`{"revision":1,"patch":${patch}}`)
      .expect(422);
    await api()
      .patch(`/api/projects/${id}`)
      .send({ revision: 1, patch: [{ op: 'replace', path: '/name', value: 'a \\u0000 in words, 🎬' }] })
      .expect(200);
  });
});

describe('a download as an archive', () => {
  it('whose media are missing is refused before it begins, with their names', async () => {
    const { id, sha256 } = await projectWithMedia();
    await rm(join(server.dataFolder, 'media', sha256));
    const { body } = await api().get(`/api/projects/${id}/archive`).expect(409);
    expect(body).toMatchObject({ detail: expect.stringContaining('plates.mp4') });
    await api().get(`/api/media/${sha256}`).expect(404);
  });

  it('cut off midway ends alone', async () => {
    const { id } = await projectWithMedia();
    for (let time = 0; time < 8; time++) {
      const stop = new AbortController();
      const answer = await fetch(`${server.address}/api/projects/${id}/archive`, { signal: stop.signal });
      await answer.body!.getReader().read();
      stop.abort();
    }
    await api().get('/api/health').expect(200);
  });
});

describe('a full disk', () => {
  it.each(['ENOSPC', 'EDQUOT', '53100'])('is told as what it is, whoever meets it (%s)', (code) => {
    expect(problemOf(Object.assign(new Error('no room'), { code })).document).toMatchObject({
      status: 507,
      type: 'urn:hastig:problem:storage-full',
      detail: expect.stringContaining('Free some space'),
    });
  });

  it('leaves nothing of an upload', async () => {
    const folder = join(server.dataFolder, 'full');
    await mkdir(folder);
    const store = new UploadStore({ directory: folder });
    const made = await api().post('/api/uploads').set({ 'Tus-Resumable': '1.0.0', 'Upload-Length': '10' }).expect(201);
    expect(made.headers.location).toBeDefined();
    const id = '1'.repeat(32);
    await store.create({ id, size: 10, offset: 0 } as Parameters<UploadStore['create']>[0]);
    const full = Readable.from(
      (function* () {
        yield Buffer.from('12345');
        throw Object.assign(new Error('no room'), { code: 'ENOSPC' });
      })(),
    );
    await expect(store.write(full, id, 0)).rejects.toMatchObject({ code: 'ENOSPC' });
    await expect(store.getUpload(id)).rejects.toMatchObject({ status_code: 404 });
  });
});

describe('a database that is away', () => {
  it('is 503 with when to ask again, also for the health of the server, and is logged once', async () => {
    // Nobody listens there.
    const away = connect('postgres://x@127.0.0.1:1/x');
    const app = createApp({ knex: away, dataFolder: server.dataFolder, worker: '' });
    const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    try {
      for (let time = 0; time < 20; time++) {
        const path = time % 2 ? '/api/health' : '/api/projects';
        const answer = await request(app.express).get(path).set('Host', 'localhost').expect(503);
        expect(answer.headers['retry-after']).toBe('2');
        expect(answer.body).toMatchObject({ type: 'urn:hastig:problem:unavailable' });
      }
      expect(said.mock.calls.length).toBeLessThan(4);
    } finally {
      said.mockRestore();
      await app.stop();
      await away.destroy();
    }
  });

  it('is counted in the log, not written over and over', () => {
    const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    for (let time = 0; time < 1000; time++) logFault('GET /x', new Error('only this one'), time);
    expect(said).toHaveBeenCalledTimes(1);
    logFault('GET /x', new Error('only this one'), 20_000);
    expect(said.mock.calls[1]![0]).toContain('999 times more');
    said.mockRestore();
  });
});

describe('two who finish one upload at once', () => {
  it('get the same media; as a project, the second finds nothing left', async () => {
    const clip = await readFile(fixture('plates-60.mp4'));
    const id = await upload(server.address, clip);
    const answers = await Promise.all([1, 2, 3].map(() => api().post(`/api/uploads/${id}/media`)));
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    const file = await upload(server.address, Buffer.from('{"kind":"song"}'));
    const twice = await Promise.all([1, 2].map(() => api().post(`/api/uploads/${file}/project`)));
    expect(twice.map(({ status }) => status).sort()).toEqual([404, 422]);
  });
});

describe('bodies of any size', () => {
  it('that are wrong in every place are refused at the first, and nobody waits for them', async () => {
    const span = { of: 'speed', frames: -1, x: [0, 2], y: [1, 1, 1] };
    const document = {
      ...newProject('Film'),
      clips: [{ id: 'c', name: 'c', timing: { start: 0, spans: Array(150_000).fill(span) } }],
    };
    const refused = api().post('/api/projects').send({ document });
    const waiting = Array.from({ length: 20 }, () => api().get('/api/health').expect(200));
    await Promise.all(waiting);
    const { status, body } = await refused;
    expect(status).toBe(422);
    expect((body as Problem).errors!.length).toBeLessThanOrEqual(20);
  });

  it('are limited by what they are for: a change is smaller than a project', async () => {
    const { id } = (await api().post('/api/projects').send({ name: 'Film' }).expect(201)).body as StoredProject;
    await api()
      .patch(`/api/projects/${id}`)
      .set('Content-Type', 'application/json')
      .send(`{"revision":1,"patch":[{"op":"replace","path":"/name","value":"${'x'.repeat(9 * 2 ** 20)}"}]}`)
      .expect(413);
  });
});
