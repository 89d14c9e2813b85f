import { mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { COPY_PIECE_BYTES, copyPieces, type StoredCopy, type StoredMedia } from '@hastig/contract';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';

let server: TestServer;
let sha256: string;

beforeAll(async () => {
  server = await startTestServer();
  const id = await upload(server.address, await readFile(fixture('plates-24.mp4')));
  sha256 = ((await request(server.address).post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia).sha256;
});
afterAll(() => server.close());

const api = () => request(server.address);
const copies = async (): Promise<StoredCopy[]> => (await api().get('/api/copies').expect(200)).body as StoredCopy[];
const put = (piece: string, content: Buffer, of = sha256) =>
  api().put(`/api/copies/${of}/${piece}`).set('Content-Type', 'video/mp4').send(content);

describe('scrubbing copies', () => {
  it('are kept piece by piece, listed, read in ranges and taken away', async () => {
    expect(await copies()).toEqual([]);
    const content = await readFile(fixture('plates-60.mp4'));
    expect((await put('0', content).expect(201)).body).toEqual({ piece: 0, bytes: content.length });
    expect(await copies()).toEqual([{ sha256, pieces: [{ piece: 0, bytes: content.length }] }]);
    const part = await api().get(`/api/copies/${sha256}/0`).set('Range', 'bytes=4-7').expect(206);
    expect(part.headers['content-type']).toContain('video/mp4');
    expect(Buffer.from(part.body as Buffer).toString('latin1')).toBe('ftyp');
    await api().delete(`/api/copies/${sha256}`).expect(204);
    expect(await copies()).toEqual([]);
    await api().get(`/api/copies/${sha256}/0`).expect(404);
  });

  it('have just the pieces that their file has frames for', async () => {
    expect(copyPieces(144)).toBe(1);
    expect(copyPieces(1201)).toBe(3);
    const content = await readFile(fixture('plates-24.mp4'));
    for (const piece of ['1', '-1', '0.5', '..%2F0', 'x']) await put(piece, content).expect(404);
    await put('0', content, 'f'.repeat(64)).expect(404);
    await put('0', content, '..').expect(404);
    await api()
      .delete(`/api/copies/${'f'.repeat(64)}`)
      .expect(404);
  });

  it('refuse what is no piece, and leave nothing of it', async () => {
    await put('0', Buffer.from('not a film at all')).expect(422);
    await put('0', Buffer.alloc(0)).expect(422);
    expect(await readdir(join(server.dataFolder, 'copies', sha256))).toEqual([]);
    expect(COPY_PIECE_BYTES).toBeGreaterThan(2 ** 20);
  });

  it('do not list what a crash left half written', async () => {
    const folder = join(server.dataFolder, 'copies', sha256);
    await mkdir(folder, { recursive: true });
    await writeFile(join(folder, '0.mp4.some-id.part'), 'half');
    expect(await copies()).toEqual([]);
  });
});
