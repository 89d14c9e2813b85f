import { mkdir, readFile, rename, readdir, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  derivedKinds,
  derivedName,
  derivedPieces,
  PEAKS_PIECE_SAMPLES,
  type StoredDerived,
  type StoredMedia,
} from '@hastig/contract';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';
import { adoptOlderProxies } from './older-proxies';

let server: TestServer;
let sha256: string;
let silent: string;

async function bringIn(name: string): Promise<string> {
  const id = await upload(server.address, await readFile(fixture(name)));
  return ((await request(server.address).post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia).sha256;
}

beforeAll(async () => {
  server = await startTestServer();
  silent = await bringIn('plates-24.mp4');
  sha256 = await bringIn('sound-96k.mp4');
});
afterAll(() => server.close());

const PROXY = derivedName({ kind: 'proxy', params: '' });
const PEAKS = derivedName({ kind: 'peaks', params: '0' });
const api = () => request(server.address);
const derived = async (): Promise<StoredDerived[]> =>
  (await api().get('/api/derived').expect(200)).body as StoredDerived[];
const put = (piece: string, content: Buffer, of = sha256, name = PROXY) =>
  api().put(`/api/derived/${of}/${name}/${piece}`).set('Content-Type', 'application/octet-stream').send(content);

describe('what is derived from a file', () => {
  it('is kept piece by piece, listed, read in ranges and taken away', async () => {
    expect(await derived()).toEqual([]);
    const content = await readFile(fixture('plates-60.mp4'));
    expect((await put('0', content).expect(201)).body).toEqual({ piece: 0, bytes: content.length });
    await put('0', Buffer.from('peaks1 and so on'), sha256, PEAKS).expect(201);
    expect(await derived()).toEqual([
      { sha256, kind: 'peaks', params: '0', pieces: [{ piece: 0, bytes: 16 }] },
      { sha256, kind: 'proxy', params: '', pieces: [{ piece: 0, bytes: content.length }] },
    ]);
    const part = await api().get(`/api/derived/${sha256}/${PROXY}/0`).set('Range', 'bytes=4-7').expect(206);
    expect(part.headers['content-type']).toContain('video/mp4');
    expect(Buffer.from(part.body as Buffer).toString('latin1')).toBe('ftyp');
    await api().delete(`/api/derived/${sha256}/${PROXY}`).expect(204);
    expect((await derived()).map(({ kind }) => kind)).toEqual(['peaks']);
    await api().get(`/api/derived/${sha256}/${PROXY}/0`).expect(404);
    await api().delete(`/api/derived/${sha256}/${PEAKS}`).expect(204);
  });

  it('has just the pieces that its file has something for', async () => {
    const content = await readFile(fixture('plates-24.mp4'));
    for (const piece of ['1', '-1', '0.5', '..%2F0', 'x']) await put(piece, content).expect(404);
    await put('0', content, 'f'.repeat(64)).expect(404);
    await put('0', content, '..').expect(404);
    // No sound, no peaks; and only of tracks that are there.
    await put('0', Buffer.from('peaks1'), silent, PEAKS).expect(404);
    await put('0', Buffer.from('peaks1'), sha256, 'peaks-1-1').expect(404);
    for (const name of ['proxy-0', 'proxy-2', 'proxy', 'toString-1', '..']) {
      await put('0', content, sha256, name).expect(404);
      await api().delete(`/api/derived/${sha256}/${name}`).expect(404);
    }
    await api()
      .delete(`/api/derived/${'f'.repeat(64)}/${PROXY}`)
      .expect(404);
    const long = { codec: 'flac', channels: 2, sampleRate: 48_000, seconds: 7200 };
    const facts = { container: '', mime: '', bytes: 1, video: null, audio: long };
    expect(derivedPieces({ kind: 'peaks', params: '0' }, facts)).toBe(Math.ceil((7200 * 48_000) / PEAKS_PIECE_SAMPLES));
  });

  it('refuses what is no piece, and leaves nothing of it', async () => {
    await put('0', Buffer.from('not a film at all')).expect(422);
    await put('0', Buffer.alloc(0)).expect(422);
    await put('0', Buffer.alloc(derivedKinds.peaks.mostBytes + 1, 'peaks1'), sha256, PEAKS).expect(413);
    expect(await readdir(join(server.dataFolder, 'derived', sha256, PROXY))).toEqual([]);
    expect(await readdir(join(server.dataFolder, 'derived', sha256, PEAKS))).toEqual([]);
  });

  it('does not list what a crash left half written, and is swept when another version made it', async () => {
    const folder = join(server.dataFolder, 'derived', sha256);
    await mkdir(join(folder, 'peaks-0-0'), { recursive: true });
    await writeFile(join(folder, PROXY, '0.some-id.part'), 'half');
    await writeFile(join(folder, 'peaks-0-0', '0'), 'old');
    expect(await derived()).toEqual([]);
    await server.sweep.sweep();
    expect(await readdir(folder)).not.toContain('peaks-0-0');
  });

  it('is called by one name only', async () => {
    for (const name of ['peaks-1-00', 'peaks-1-0.0', 'peaks-1-0e0', 'proxy-1-x', 'motion-1-0'])
      await put('0', Buffer.from('peaks1 and so on'), sha256, name).expect(404);
  });

  it('takes no more room than it may: what was not used for longest goes, and what is too much is refused', async () => {
    const small = await startTestServer({ maxDerivedBytes: 250 });
    try {
      const id = await upload(small.address, await readFile(fixture('sound-96k.mp4')));
      const media = (await request(small.address).post(`/api/uploads/${id}/media`).expect(201)).body as StoredMedia;
      const lay = (kind: 'peaks' | 'onsets', bytes: number) => {
        const content = Buffer.alloc(bytes, kind === 'peaks' ? 'peaks1' : 'onset2');
        const name = derivedName({ kind, params: '0' });
        return request(small.address)
          .put(`/api/derived/${media.sha256}/${name}/0`)
          .set('Content-Type', 'application/octet-stream')
          .send(content);
      };
      const there = async () =>
        ((await request(small.address).get('/api/derived').expect(200)).body as StoredDerived[]).map(
          ({ kind }) => kind,
        );
      await lay('peaks', 100).expect(201);
      // In the place of itself it takes no more.
      for (let time = 0; time < 5; time++) await lay('peaks', 120).expect(201);
      await lay('onsets', 120).expect(201);
      expect(await there()).toEqual(['onsets', 'peaks']);
      await lay('onsets', 200).expect(201);
      expect(await there()).toEqual(['onsets']);
      expect((await lay('peaks', 251).expect(507)).body).toMatchObject({ type: 'urn:hastig:problem:storage-full' });
      await lay('peaks', 40).expect(201);
    } finally {
      await small.close();
    }
  });

  it('that came half is swept after a day', async () => {
    const folder = join(server.dataFolder, 'derived', sha256, PROXY);
    await mkdir(folder, { recursive: true });
    await writeFile(join(folder, '0.other.part'), 'half');
    await server.sweep.sweep();
    expect(await readdir(folder)).toContain('0.other.part');
    const old = new Date(Date.now() - 25 * 3_600_000);
    await utimes(join(folder, '0.other.part'), old, old);
    await server.sweep.sweep();
    expect(await readdir(folder).catch(() => [])).not.toContain('0.other.part');
  });

  it('takes over the proxies of an older version where they lie', async () => {
    const [from, to] = [join(server.dataFolder, 'copies'), join(server.dataFolder, 'derived')];
    await mkdir(join(from, silent), { recursive: true });
    const content = await readFile(fixture('plates-60.mp4'));
    await writeFile(join(from, silent, '0.mp4'), content);
    await adoptOlderProxies(from, to);
    expect(await derived()).toEqual([
      { sha256: silent, kind: 'proxy', params: '', pieces: [{ piece: 0, bytes: content.length }] },
    ]);
    await api()
      .get(`/api/derived/${silent}/${PROXY}/0`)
      .expect('Content-Type', /video\/mp4/)
      .expect(200);
    await expect(readdir(from)).rejects.toThrow(/ENOENT/);
    // Where there are none, nothing is done.
    await adoptOlderProxies(from, to);
    // One version called them copies.
    await rename(join(to, silent, PROXY), join(to, silent, 'copy-1'));
    expect(await derived()).toEqual([]);
    await adoptOlderProxies(from, to);
    expect((await derived()).map(({ kind }) => kind)).toEqual(['proxy']);
  });
});
