import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { CONVERTED } from '../media/store';
import { unpackProject } from '../projects/unpack';
import type { NewMachineKey, ServerJob, StoredMedia, TakenPart } from '@hastig/contract';
import { newProject } from '@hastig/core';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';

// Where nothing may be installed, what needs the framework is left out.
const withFramework =
  spawnSync('gst-inspect-1.0', ['libav'], { stdio: 'ignore' }).status === 0 ? describe : describe.skip;

const digest = (content: Buffer): string => createHash('sha256').update(content).digest('hex');

withFramework('a file that is converted', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  async function order(content: Buffer): Promise<ServerJob> {
    const uploadId = await upload(server.address, content);
    const { body } = await request(server.address).post('/api/jobs').send({ convert: { uploadId, file: 'phone.mp4' } }).expect(201); // prettier-ignore
    return body as ServerJob;
  }

  async function letIn(): Promise<(path: string, body: object | Buffer) => request.Test> {
    const { body } = await request(server.address).post('/api/machines').send({ name: 'Desk' });
    const { key } = body as NewMachineKey;
    return (path, content) =>
      request(server.address)
        [Buffer.isBuffer(content) ? 'put' : 'post'](`/api/worker${path}`)
        .set('Authorization', `Bearer ${key}`)
        .send(content);
  }

  const take = async (ask: Awaited<ReturnType<typeof letIn>>): Promise<TakenPart> =>
    (await ask('/next', { cores: 1, codecs: [], can: ['convert'] }).expect(200)).body as TakenPart;

  async function give(ask: Awaited<ReturnType<typeof letIn>>, { id, lease }: TakenPart, made: Buffer): Promise<number> {
    await ask(`/parts/${id}/file?lease=${lease}&position=0`, made).expect(204);
    const { status } = await ask(`/parts/${id}/done`, { lease, bytes: made.length, sha256: digest(made), frames: 0, took: 1 }); // prettier-ignore
    return status;
  }

  it('is refused before anything is begun where it would take hours, and the limit is told', async () => {
    const path = join(server.dataFolder, 'hours.mkv');
    spawnSync('gst-launch-1.0', ['-q', ...`videotestsrc num-buffers=5 ! video/x-raw,width=64,height=48,framerate=1/3600 ! jpegenc ! matroskamux ! filesink location=${path}`.split(' ')]); // prettier-ignore
    const uploadId = await upload(server.address, await readFile(path));
    const { body } = await request(server.address).post('/api/jobs').send({ convert: { uploadId, file: 'hours.mkv' } }).expect(422); // prettier-ignore
    expect(body).toMatchObject({ title: 'The file is too long to convert.' });
    expect((body as { detail: string }).detail).toBe('It lasts 5.0 hours; at most 4 are converted. Cut it first.');
    expect((await request(server.address).get('/api/jobs')).body).toEqual([]);
  });

  it('is known by what it was, read as what was made of it, and goes into an archive and out of it as both', async () => {
    const [original, made] = [await readFile(fixture('hevc.mp4')), await readFile(fixture('plates-24.mp4'))];
    const sha256 = digest(original);
    const { id } = await order(original);
    const ask = await letIn();
    const part = await take(ask);
    expect(part).toMatchObject({ task: { do: 'convert', sha256 }, media: [{ sha256, digest: sha256 }] });
    await request(server.address).post(`/api/jobs/${id}/media`).expect(409);
    expect(await give(ask, part, made)).toBe(204);
    const { body } = await request(server.address).post(`/api/jobs/${id}/media`).expect(201);
    const stored = body as StoredMedia;
    expect(stored).toMatchObject({
      sha256,
      facts: { bytes: made.length, video: { codec: 'avc', frames: 144 }, converted: { from: 'H.265 / HEVC', bytes: original.length } }, // prettier-ignore
    });
    const read = await request(server.address).get(`/api/media/${sha256}`).buffer();
    expect((read.body as Buffer).equals(made)).toBe(true);
    expect(existsSync(join(server.dataFolder, 'jobs', id))).toBe(false);

    const document = { ...newProject('Film'), sources: [{ id: 's', name: 'Phone', ...stored }] };
    const project = await request(server.address).post('/api/projects').send({ document }).expect(201);
    const { id: projectId } = project.body as { id: string };
    const archive = await request(server.address).get(`/api/projects/${projectId}/archive`).buffer().parse(whole);
    const file = join(server.dataFolder, 'film.zip');
    await writeFile(file, archive.body as Buffer);
    // Without a server what is read is what was made.
    const unpacked = await unpackProject(file, server.dataFolder);
    expect((await readFile(unpacked.media.get(sha256)!)).equals(made)).toBe(true);
    const other = await startTestServer();
    try {
      const uploadId = await upload(other.address, archive.body as Buffer);
      await request(other.address).post(`/api/uploads/${uploadId}/project`).expect(201);
      const [kept, read] = [
        join(other.dataFolder, 'media', sha256),
        join(other.dataFolder, 'media', sha256 + CONVERTED),
      ];
      expect((await readFile(kept)).equals(original)).toBe(true);
      expect((await readFile(read)).equals(made)).toBe(true);
    } finally {
      await other.close();
    }
  });

  it('of which something else was made than can be read is tried again, and then told', async () => {
    const { id } = await order(await readFile(fixture('hevc.mp4')));
    const ask = await letIn();
    const part = await take(ask);
    expect(await give(ask, part, Buffer.from('marbles'))).toBe(422);
    await ask(`/parts/${part.id}/failed`, { lease: part.lease, message: 'It can’t be read.', again: false }).expect(
      204,
    );
    const { body } = await request(server.address).get(`/api/jobs/${id}`);
    expect(body).toMatchObject({ state: 'failed', message: 'It can’t be read.' });
    await request(server.address).delete(`/api/jobs/${id}`).expect(204);
    expect(existsSync(join(server.dataFolder, 'jobs', id))).toBe(false);
  });

  it('that holds nothing to decode is refused at once, and leaves nothing', async () => {
    const uploadId = await upload(server.address, Buffer.from('marbles '.repeat(500)));
    const { body } = await request(server.address).post('/api/jobs').send({ convert: { uploadId, file: 'x' } }).expect(422); // prettier-ignore
    expect(body).toMatchObject({ detail: 'Nothing in it can be decoded.' });
    expect((await request(server.address).get('/api/jobs')).body).toEqual([]);
    await request(server.address)
      .post('/api/jobs')
      .send({ convert: { uploadId, file: 'x' } })
      .expect(404);
  });
});

/** All of a body, of whatever kind. */
function whole(response: unknown, done: (error: Error | null, body: Buffer) => void): void {
  const pieces: Buffer[] = [];
  const stream = response as NodeJS.ReadableStream;
  stream.on('data', (piece: Buffer) => pieces.push(piece));
  stream.on('end', () => done(null, Buffer.concat(pieces)));
}
