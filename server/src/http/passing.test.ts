import { readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { connect as openSocket } from 'node:net';
import { join } from 'node:path';
import type { MissingMedia, StoredMedia, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';
import { failCommits } from '../../test/fail';
import { problemOf, willPass } from './problem';

let server: TestServer;
beforeEach(async () => {
  server = await startTestServer();
});
afterEach(() => server.close());

const api = () => request(server.address);
const finish = (id: string) => api().post(`/api/uploads/${id}/media`);

async function projectOf(name: string): Promise<{ project: StoredProject; media: StoredMedia }> {
  const media = (await finish(await upload(server.address, await readFile(fixture(name)))).expect(201))
    .body as StoredMedia;
  const document = addSource(newProject('Film'), { id: 's', name: 'plates', ...media }, 'c');
  const { body } = await api().post('/api/projects').send({ document }).expect(201);
  return { project: body as StoredProject, media };
}

async function archiveOf(id: string): Promise<Buffer> {
  return Buffer.from(await (await fetch(`${server.address}/api/projects/${id}/archive`)).arrayBuffer());
}

const importProject = (id: string) => api().post(`/api/uploads/${id}/project`);

describe('a fault that passes', () => {
  it('while an upload becomes media leaves the upload, which is finished the next time', async () => {
    const id = await upload(server.address, await readFile(fixture('plates-24.mp4')));
    for (const table of ['media', 'uploads']) {
      const mend = await failCommits(server.knex, table);
      const { body } = await finish(id).expect(503);
      expect(JSON.stringify(body)).not.toContain('secret_table');
      await mend();
    }
    const { sha256 } = (await finish(id).expect(201)).body as StoredMedia;
    await api().get(`/api/media/${sha256}`).expect(200);
    expect(await readdir(join(server.dataFolder, 'uploads'))).toEqual([]);
    expect(await readdir(join(server.dataFolder, 'media'))).toEqual([sha256]);
  });

  it('while an archive is read is none of the archive’s, says nothing of the database, and leaves the upload', async () => {
    const { project } = await projectOf('plates-24.mp4');
    const zip = await archiveOf(project.id);
    const fresh = await startTestServer();
    try {
      const id = await upload(fresh.address, zip);
      for (const table of ['media', 'projects']) {
        const mend = await failCommits(fresh.knex, table);
        const { body } = await request(fresh.address).post(`/api/uploads/${id}/project`).expect(503);
        expect(JSON.stringify(body)).not.toMatch(/secret_table|insert|damaged/i);
        await mend();
      }
      const { body } = await request(fresh.address).post(`/api/uploads/${id}/project`).expect(201);
      expect((body as StoredProject).document).toEqual(project.document);
      expect(await readdir(join(fresh.dataFolder, 'uploads'))).toEqual([]);
    } finally {
      await fresh.close();
    }
  });

  it('is told by its code, whatever the words (SQLSTATE, PostgreSQL appendix A)', async () => {
    for (const state of ['57P01', '08006', '53300', '40001']) {
      const mend = await failCommits(server.knex, 'projects', state);
      await api().post('/api/projects').send({ name: 'Film' }).expect(503);
      await mend();
    }
    // A connection that breaks off has only words.
    const ended = server.knex.transaction(async (transaction) => {
      const { rows } = await transaction.raw<{ rows: { pid: number }[] }>('select pg_backend_pid() as pid');
      await server.knex.raw('select pg_terminate_backend(?)', [rows[0]!.pid]);
      await transaction.raw('select 1');
    });
    const error = (await ended.catch((reason: unknown) => reason)) as Error & { code: string };
    expect([error.code !== '', problemOf(error).status]).toEqual([true, 503]);
    expect(willPass(error)).toBe(true);
  });
});

describe('an archive with a damaged compressed part', () => {
  it('is refused as damaged, as often as one likes, and the server goes on', async () => {
    const damaged = await readFile(fixture('damaged-inside.zip'));
    for (let time = 0; time < 8; time++) {
      const { body } = await importProject(await upload(server.address, damaged)).expect(422);
      expect(body).toMatchObject({ title: 'The archive is damaged.' });
    }
    await api().get('/api/health').expect(200);
    expect(await readdir(join(server.dataFolder, 'media')).catch(() => [])).toEqual([]);
  });
});

describe('media that are gone', () => {
  const missing = async (id: string) =>
    (await api().get(`/api/projects/${id}/missing`).expect(200)).body as MissingMedia[];

  it.each([
    ['missing', (path: string) => rm(path)],
    ['empty', (path: string) => writeFile(path, '')],
    ['cut short', async (path: string) => writeFile(path, (await readFile(path)).subarray(0, 500))],
  ])('(%s) are named, and come back with the file or an archive of it', async (_, harm) => {
    const { project, media } = await projectOf('plates-24.mp4');
    const zip = await archiveOf(project.id);
    const path = join(server.dataFolder, 'media', media.sha256);
    const clip = await readFile(path);
    expect(await missing(project.id)).toEqual([]);

    await harm(path);
    expect(await missing(project.id)).toEqual([{ sha256: media.sha256, name: 'plates' }]);
    await api().get(`/api/media/${media.sha256}`).expect(404);
    await importProject(await upload(server.address, zip)).expect(201);
    expect(Buffer.from((await api().get(`/api/media/${media.sha256}`).expect(200)).body as Buffer)).toEqual(clip);

    await harm(path);
    await finish(await upload(server.address, clip)).expect(201);
    expect(await missing(project.id)).toEqual([]);
    expect((await api().get(`/api/media/${media.sha256}`).expect(200)).headers['content-length']).toBe(
      `${clip.length}`,
    );
  });
});

describe('values in each other', () => {
  it('deeper than anything of ours are refused before they are read, wherever they come', async () => {
    const { id } = (await api().post('/api/projects').send({ name: 'Film' }).expect(201)).body as StoredProject;
    const send = (method: 'post' | 'patch', path: string, body: string) =>
      api()[method](path).set('Content-Type', 'application/json').send(body);
    const deep = (levels: number, open = '[', close = ']') => open.repeat(levels) + close.repeat(levels);
    for (const levels of [100, 5000, 200_000]) {
      const patch = `{"revision":1,"patch":[{"op":"add","path":"/x","value":${deep(levels)}}]}`;
      await send('patch', `/api/projects/${id}`, patch).expect(422);
      await send('post', '/api/projects', `{"document":${deep(levels, '{"a":[', ']}')}}`).expect(422);
      const file = Buffer.from(`{"kind":"hastig-project","document":${deep(levels)}}`);
      await importProject(await upload(server.address, file)).expect(422);
    }
    // Brackets in words are words.
    const named = { revision: 1, patch: [{ op: 'replace', path: '/name', value: `\\"${'['.repeat(90)}` }] };
    await api().patch(`/api/projects/${id}`).send(named).expect(200);
  });
});

describe('who may write', () => {
  it.each([
    ['cross-site', 403],
    ['same-site', 403],
    ['same-origin', 201],
    ['none', 201],
  ])('a browser that says %s is answered %i, without an Origin too (Fetch Metadata, W3C)', async (site, status) => {
    await api().post('/api/projects').set('Sec-Fetch-Site', site).send({ name: 'Film' }).expect(status);
  });

  it('an expectation that is not met is refused as a problem (RFC 9110, 15.5.18)', async () => {
    const { hostname, port } = new URL(server.address);
    const answer = await new Promise<string>((resolve, reject) => {
      let text = '';
      const socket = openSocket(Number(port), hostname, () =>
        socket.write(
          `POST /api/projects HTTP/1.1\r\nHost: localhost\r\nExpect: 200-maybe\r\nContent-Length: 0\r\n\r\n`,
        ),
      );
      socket
        .on('data', (data) => (text += data.toString()))
        .on('end', () => resolve(text))
        .on('error', reject);
    });
    expect(answer).toMatch(/^HTTP\/1.1 417 /);
    expect(JSON.parse(answer.split('\r\n\r\n')[1]!.replace(/^[0-9a-f]+\r\n|\r\n0$/g, ''))).toMatchObject({
      status: 417,
    });
  });
});
