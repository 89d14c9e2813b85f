import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { StoredMedia, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';

let server: TestServer;
let other: TestServer;
let clip: Buffer;
let project: StoredProject;

beforeAll(async () => {
  [server, other] = await Promise.all([startTestServer(), startTestServer()]);
  clip = await readFile(fixture('plates-24.mp4'));
  const id = await upload(server.address, clip);
  const media = (await request(server.address).post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
  const document = addSource(newProject('Film: "one"'), { id: 's', name: 'plates.mp4', ...media }, 'c');
  project = (await request(server.address).post('/api/projects').send({ document }).expect(201)).body as StoredProject;
});
afterAll(() => Promise.all([server.close(), other.close()]));

async function download(path: string): Promise<Buffer> {
  const answer = await fetch(`${server.address}/api/projects/${project.id}/${path}`);
  expect(answer.status).toBe(200);
  expect(answer.headers.get('Content-Disposition')).toMatch(/^attachment; filename="Film +one\./);
  return Buffer.from(await answer.arrayBuffer());
}

const bringIn = async (to: TestServer, content: Buffer) => {
  const id = await upload(to.address, content);
  return request(to.address).post(`/api/uploads/${id}/project`);
};

describe('projects as files', () => {
  it('an archive is an uncompressed ZIP that other programs read, and becomes the same project elsewhere', async () => {
    const zip = await download('archive');
    const folder = await mkdtemp(join(tmpdir(), 'hastig-zip-'));
    const file = join(folder, 'film.zip');
    await writeFile(file, zip);
    // Python's zipfile, nothing of ours: names, sizes and the sum of every file.
    const list = execFileSync('python3', [
      '-c',
      'import sys,zipfile;z=zipfile.ZipFile(sys.argv[1]);assert z.testzip() is None;print([(i.filename,i.compress_type,i.file_size) for i in z.infolist() if i.filename!="project.json"])',
      file,
    ]).toString();
    const sha256 = createHash('sha256').update(clip).digest('hex');
    expect(list.trim()).toBe(`[('media/${sha256}', 0, ${clip.length})]`);

    const { body, status } = await bringIn(other, zip);
    expect([status, (body as StoredProject).document]).toEqual([201, project.document]);
    const stored = await fetch(`${other.address}/api/media/${sha256}`);
    expect(Buffer.from(await stored.arrayBuffer()).equals(clip)).toBe(true);
    // Neither the upload nor a copy stays behind.
    expect(await readdir(join(other.dataFolder, 'uploads'))).toEqual([]);
    expect(await readdir(join(other.dataFolder, 'media'))).toEqual([sha256]);
  });

  it('JSON alone is enough where the media are; where they are not, they are named', async () => {
    const json = await download('file');
    expect(JSON.parse(json.toString())).toMatchObject({ kind: 'hastig-project', document: { name: 'Film: "one"' } });
    expect((await bringIn(server, json)).status).toBe(201);
    const fresh = await startTestServer();
    try {
      const { body, status } = await bringIn(fresh, json);
      expect([status, (body as { detail: string }).detail]).toEqual([
        422,
        expect.stringContaining('Missing: plates.mp4'),
      ]);
    } finally {
      await fresh.close();
    }
  });

  it.each([
    ['a text', Buffer.from('hello'), 'neither JSON nor a ZIP'],
    ['another JSON', Buffer.from('{"kind":"song"}'), '/kind must be "hastig-project"'],
    ['a broken document', Buffer.from('{"kind":"hastig-project","document":{"version":2}}'), '/name is missing'],
    ['a ZIP cut short', Buffer.from('PK\u0003\u0004 and no more'), ''],
  ])('%s is refused with its reason, and leaves nothing', async (_, content, reason) => {
    const { body, status } = await bringIn(server, content);
    expect([status, (body as { detail?: string }).detail]).toEqual([422, expect.stringContaining(reason)]);
    expect(await readdir(join(server.dataFolder, 'uploads'))).toEqual([]);
  });

  it('media in an archive that are not what their names say are refused', async () => {
    const zip = await download('archive');
    const at = zip.indexOf(clip.subarray(0, 64));
    const changed = Buffer.from(zip);
    changed[at + 5000]! ^= 0xff;
    const fresh = await startTestServer();
    try {
      const { status, body } = await bringIn(fresh, changed);
      expect(status).toBe(422);
      expect((body as { title: string }).title).toBe('The archive is damaged.');
      expect(await readdir(join(fresh.dataFolder, 'media'))).toEqual([]);
    } finally {
      await fresh.close();
    }
  });
});

describe('documents that are not whole', () => {
  it('are refused whatever way they come', async () => {
    const { document } = project;
    const broken = {
      ...document,
      sequence: { ...document.sequence, tracks: [{ ...document.sequence.tracks[0]!, items: [] }] },
    };
    const { body } = await request(server.address).post('/api/projects').send({ document: broken }).expect(422);
    expect((body as { detail: string }).detail).toContain('c is on no track');
    const patch = [{ op: 'add', path: '/sequence/tracks/0/items/1', value: { clip: 'c' } }];
    const again = await request(server.address)
      .patch(`/api/projects/${project.id}`)
      .send({ revision: 1, patch })
      .expect(422);
    expect((again.body as { detail: string }).detail).toContain('c is in two places');
  });

  it('of version 1 are migrated on load, can be changed, and go back to what they were before', async () => {
    const { version: _v, defaults: _d, groups: _g, sequence, clips, ...rest } = project.document;
    const old = {
      ...rest,
      version: 1,
      sequence: { rate: sequence.rate },
      clips: clips.map(({ id, name, timing, of }) => ({ id, name, timing, sourceId: of.id })),
    };
    const { id } = (await request(server.address).post('/api/projects').send({ name: 'Old' }).expect(201))
      .body as StoredProject;
    await server.knex('projects').where({ id }).update({ revision: 3 });
    await server
      .knex('snapshots')
      .where({ project_id: id })
      .update({ document: JSON.stringify({ ...old, name: 'Older' }) });
    const rename = (name: string) => JSON.stringify([{ op: 'replace', path: '/name', value: name }]);
    await server.knex('revisions').insert([
      { project_id: id, revision: 2, patch: rename('Old') },
      { project_id: id, revision: 3, patch: rename(rest.name) },
    ]);
    const { body } = await request(server.address).get(`/api/projects/${id}`).expect(200);
    expect((body as StoredProject).document).toEqual(project.document);
    const patch = [{ op: 'replace', path: '/sequence/startFrame', value: 5 }];
    await request(server.address).patch(`/api/projects/${id}`).send({ revision: 3, patch }).expect(200);
    for (const [revision, name] of [
      [1, 'Older'],
      [2, 'Old'],
      [3, rest.name],
      [4, rest.name],
    ] as const) {
      const earlier = (await request(server.address).get(`/api/projects/${id}/revisions/${revision}`).expect(200)).body;
      expect((earlier as StoredProject).document).toMatchObject({ version: 9, name });
    }
  });
});
