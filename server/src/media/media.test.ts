import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { StoredMedia } from '@hastig/contract';
import request from 'supertest';
import { readyDocument, type ReadyDocument } from '../work/read-document';
import { newProject } from '@hastig/core';
import type { MediaStore } from './store';
import { problemOf } from '../http/problem';
import { fixture, startTestServer, upload as uploadTo, type TestServer } from '../../test/app';

/** Stores a clip and makes a document, as the demo's does. */
const demo = async (media: MediaStore): Promise<ReadyDocument> => {
  await media.adoptCopy(fixture('plates-60.mp4'));
  return readyDocument(newProject('Demo', { num: 24, den: 1 }));
};

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ maxUploadBytes: 2 ** 20, demo });
});
afterAll(() => server.close());

const api = () => request(server.address);

const upload = (content: Buffer, chunkSize?: number): Promise<string> => uploadTo(server.address, content, chunkSize);

const files = async (folder: string): Promise<string[]> => readdir(join(server.dataFolder, folder)).catch(() => []);

describe('uploads (tus resumable upload protocol 1.0)', () => {
  it('become media by their content, once', async () => {
    const clip = await readFile(fixture('plates-2997.mp4'));
    const sha256 = createHash('sha256').update(clip).digest('hex');
    const id = await upload(clip, 2000);
    const first = (await api().post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
    expect(first).toMatchObject({
      sha256,
      facts: {
        video: {
          frames: 150,
          rate: { num: 30000, den: 1001 },
          constantRate: true,
          codec: 'avc',
          width: 320,
          longestGroup: 60,
        },
        audio: null,
      },
    });
    // Asked again, as after a lost answer; and uploaded again.
    expect((await api().post(`/api/uploads/${id}/media`).expect(201)).body).toEqual(first);
    const again = (
      await api()
        .post(`/api/uploads/${await upload(clip)}/media`)
        .expect(201)
    ).body as StoredMedia;
    expect(again.sha256).toBe(sha256);
    expect((await files('media')).filter((name) => name === sha256)).toHaveLength(1);
    expect(((await api().get('/api/media').expect(200)).body as string[]).filter((one) => one === sha256)).toHaveLength(
      1,
    );
    expect(await files('uploads')).toEqual([]);
  });

  it('go on where they stopped', async () => {
    const clip = await readFile(fixture('plates-24.mp4'));
    const made = await api()
      .post('/api/uploads')
      .set('Tus-Resumable', '1.0.0')
      .set('Upload-Length', String(clip.length))
      .expect(201);
    const path = new URL(made.headers.location!, server.address).pathname;
    const id = path.split('/').at(-1)!;
    const send = (offset: number, end: number) =>
      api()
        .patch(path)
        .set({
          'Tus-Resumable': '1.0.0',
          'Upload-Offset': String(offset),
          'Content-Type': 'application/offset+octet-stream',
        })
        .send(clip.subarray(offset, end));
    await send(0, 3000).expect(204);
    await api()
      .post(`/api/uploads/${id}/media`)
      .expect(409)
      .expect(({ body }) => expect(body).toMatchObject({ detail: expect.stringContaining('3000 of') }));
    const { headers } = await api().head(path).set('Tus-Resumable', '1.0.0').expect(200);
    expect(headers['upload-offset']).toBe('3000');
    await send(0, 10).expect(409);
    await send(3000, clip.length).expect(204);
    await api().post(`/api/uploads/${id}/media`).expect(201);
  });

  it.each([
    ['text', Buffer.from('not a film at all\n'.repeat(50)), /can’t read this type/],
    ['half a clip', 'half', /incomplete|damaged/],
  ])('of %s are refused and taken away', async (_, content, reason) => {
    const whole = await readFile(fixture('plates-60.mp4'));
    const id = await upload(typeof content === 'string' ? whole.subarray(0, whole.length - 4000) : content);
    const { body } = await api().post(`/api/uploads/${id}/media`).expect(422);
    expect(body).toMatchObject({ type: 'urn:hastig:problem:refused-media', detail: expect.stringMatching(reason) });
    expect((await files('uploads')).filter((name) => name.startsWith(id))).toEqual([]);
  });

  it('are limited in size and cannot be finished under a foreign name', async () => {
    await api()
      .post('/api/uploads')
      .set('Tus-Resumable', '1.0.0')
      .set('Upload-Length', String(2 ** 21))
      .expect(413);
    for (const id of ['..%2f..%2fetc', 'none', '0'.repeat(32)])
      await api().post(`/api/uploads/${id}/media`).expect(404);
  });

  it('answer a full disk with what to do', () => {
    const problem = problemOf(Object.assign(new Error('write'), { code: 'ENOSPC' }));
    expect(problem.document).toMatchObject({
      status: 507,
      title: 'The disk is full.',
      detail: expect.stringContaining('Free some space'),
    });
  });
});

describe('stored media', () => {
  it('are taken in by several at once, as by those who open the demo in the same moment', async () => {
    const demos = await Promise.all(Array.from({ length: 6 }, () => api().post('/api/demo')));
    expect(demos.map(({ status }) => status)).toEqual(Array(6).fill(201));
    expect((await files('media')).filter((name) => /^copy-/.test(name))).toEqual([]);
  });

  it('are served whole and in ranges, by their digest only', async () => {
    const clip = await readFile(fixture('plates-24.mp4'));
    const { sha256 } = (
      await api()
        .post(`/api/uploads/${await upload(clip)}/media`)
        .expect(201)
    ).body as StoredMedia;
    const whole = await api().get(`/api/media/${sha256}`).buffer(true).parse(collect).expect(200);
    expect(
      createHash('sha256')
        .update(whole.body as Buffer)
        .digest('hex'),
    ).toBe(sha256);
    expect(whole.headers['content-type']).toBe('video/mp4');
    const part = await api()
      .get(`/api/media/${sha256}`)
      .set('Range', 'bytes=100-199')
      .buffer(true)
      .parse(collect)
      .expect(206);
    expect((part.body as Buffer).equals(clip.subarray(100, 200))).toBe(true);
    await api().get(`/api/media/${sha256}`).set('Range', 'bytes=99999999-').expect(416);
    for (const name of ['..%2f..%2f..%2fetc%2fpasswd', 'a'.repeat(64), 'x'])
      await api().get(`/api/media/${name}`).expect(404);
  });
});

function collect(response: unknown, done: (error: Error | null, body: Buffer) => void): void {
  const pieces: Buffer[] = [];
  const stream = response as NodeJS.ReadableStream;
  stream.on('data', (piece: Buffer) => pieces.push(piece));
  stream.on('end', () => done(null, Buffer.concat(pieces)));
}
