import { mkdir, readdir, readFile, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { StoredMedia, StoredProject } from '@hastig/contract';
import { addSource, newProject, removeSource } from '@hastig/core';
import jsonPatch from 'fast-json-patch';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';

const DAY = 24 * 3_600_000;

let server: TestServer;
beforeEach(async () => {
  server = await startTestServer();
});
afterEach(() => server.close());

const api = () => request(server.address);
const names = (folder: string): Promise<string[]> =>
  readdir(join(server.dataFolder, folder)).catch(() => [] as string[]);

async function bringIn(name: string): Promise<StoredMedia> {
  const id = await upload(server.address, await readFile(fixture(name)));
  return (await api().post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
}

async function projectOf(media: StoredMedia): Promise<StoredProject> {
  const document = addSource(newProject('Film'), { id: 's', name: 'plates', ...media }, 'c');
  return (await api().post('/api/projects').send({ document }).expect(201)).body as StoredProject;
}

async function removeForGood(id: string): Promise<void> {
  await api().delete(`/api/projects/${id}`).expect(204);
  await api().delete(`/api/projects/removed/${id}`).expect(204);
}

const tomorrow = (): number => Date.now() + DAY + 60_000;

describe('room that nobody needs', () => {
  it('is kept while any state of a project uses the file, and freed with its copy when the last such project is gone', async () => {
    const media = await bringIn('plates-24.mp4');
    const [one, two] = [await projectOf(media), await projectOf(media)];
    await mkdir(join(server.dataFolder, 'derived', media.sha256), { recursive: true });
    // Out of the document, but the state before can be taken back.
    const patch = jsonPatch.compare(one.document, removeSource(one.document, 's'));
    await api().patch(`/api/projects/${one.id}`).send({ revision: 1, patch }).expect(200);
    await removeForGood(two.id);
    await server.sweep.stop();
    await server.knex('media').update({ imported_at: new Date(Date.now() - 2 * DAY) });
    expect(await server.sweep.sweep()).toEqual([]);
    expect(await names('media')).toEqual([media.sha256]);
    // Removed, it can still be brought back, with its files.
    await api().delete(`/api/projects/${one.id}`).expect(204);
    expect(await server.sweep.sweep()).toEqual([]);
    await server.knex('media').update({ imported_at: new Date() });

    await api().delete(`/api/projects/removed/${one.id}`).expect(204);
    await server.sweep.stop();
    // It was brought in a moment ago, so the sweep after the removal leaves it.
    expect(await names('media')).toEqual([media.sha256]);
    expect(await server.sweep.sweep(tomorrow())).toEqual([media.sha256]);
    expect([await names('media'), await names('derived')]).toEqual([[], []]);
    await api().get(`/api/media/${media.sha256}`).expect(404);

    // Brought in once more, it is a file like any other.
    expect((await bringIn('plates-24.mp4')).sha256).toBe(media.sha256);
    await api().get(`/api/media/${media.sha256}`).expect(200);
  });

  it('is not freed while a file may be on its way into a project', async () => {
    const media = await bringIn('plates-24.mp4');
    const old = new Date(Date.now() - 3 * DAY);
    await server.knex('media').update({ imported_at: old });
    // The same content again: it counts as new.
    await bringIn('plates-24.mp4');
    expect(await server.sweep.sweep()).toEqual([]);
    await server.knex('media').update({ imported_at: old });
    expect(await server.sweep.sweep()).toEqual([media.sha256]);
  });

  it('keeps every file where one of them cannot be set aside', async () => {
    const media = [await bringIn('plates-24.mp4'), await bringIn('plates-60.mp4')];
    for (const { sha256 } of media) {
      // In its way: a folder with something in it.
      if (sha256 === media[1]!.sha256)
        await mkdir(join(server.dataFolder, 'media', `unused-${sha256}`, 'full'), { recursive: true });
    }
    await expect(server.sweep.sweep(tomorrow())).rejects.toThrow(/EISDIR|ENOTEMPTY|directory/);
    for (const { sha256 } of media) await api().get(`/api/media/${sha256}`).expect(200);
  });

  it('of what a crash left half made is freed after a day', async () => {
    await bringIn('plates-24.mp4');
    const folder = join(server.dataFolder, 'media');
    const [fresh, stale] = ['stream-1-fresh', 'copy-1-stale'];
    for (const name of [fresh, stale]) await writeFile(join(folder, name), 'half');
    const old = new Date(Date.now() - 2 * DAY);
    await utimes(join(folder, stale), old, old);
    await server.sweep.sweep();
    expect(await names('media')).toEqual(expect.arrayContaining([fresh]));
    expect(await names('media')).not.toContain(stale);
    expect(await names('media')).toHaveLength(2);
  });

  it('is not that of a file that lay uploaded for days and is being brought in', async () => {
    const id = await upload(server.address, await readFile(fixture('plates-24.mp4')));
    const old = new Date(Date.now() - 3 * DAY);
    await utimes(join(server.dataFolder, 'uploads', id), old, old);
    const { sha256 } = (await api().post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
    // As a sweep finds it that looked for rows a moment before.
    await server.knex('uploads').delete();
    await server.knex('media').delete();
    await server.sweep.sweep();
    expect(await names('media')).toEqual([sha256]);
  });

  it('of an upload is freed when nobody went on with it for two weeks', async () => {
    const begin = async (): Promise<string> => {
      const { headers } = await api()
        .post('/api/uploads')
        .set({ 'Tus-Resumable': '1.0.0', 'Upload-Length': '1000' })
        .expect(201);
      return headers.location!.split('/').at(-1)!;
    };
    const [left, current] = [await begin(), await begin()];
    const info = join(server.dataFolder, 'uploads', `${left}.json`);
    const told = JSON.parse(await readFile(info, 'utf8')) as { creation_date: string };
    await writeFile(info, JSON.stringify({ ...told, creation_date: new Date(Date.now() - 15 * DAY).toISOString() }));
    await server.sweep.sweep();
    expect((await names('uploads')).sort()).toEqual([current, `${current}.json`].sort());
  });
});
