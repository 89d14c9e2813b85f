import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import express from 'express';
import request from 'supertest';
import { clientFiles } from './client-files';
import { answerErrors } from './problem';

const script = 'export const frames = 24;';
let folder: string;
let app: express.Express;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'hastig-client-'));
  await mkdir(join(folder, '_expo'));
  await writeFile(join(folder, 'index.html'), '<!doctype html><title>Hastig</title>');
  await writeFile(join(folder, '_expo/entry.js'), script);
  await writeFile(join(folder, '_expo/entry.js.br'), brotliCompressSync(script));
  app = express();
  app.use(clientFiles(folder));
  app.use(answerErrors);
});
afterAll(() => rm(folder, { recursive: true }));

const accepting = (encoding: string) => request(app).get('/_expo/entry.js').set('Accept-Encoding', encoding);

it('gives the compressed copy to who can read it, as what it is and to be kept', async () => {
  const { headers } = await accepting('gzip, deflate, br').expect(200);
  expect(headers).toMatchObject({
    'content-encoding': 'br',
    'content-type': expect.stringMatching(/^text\/javascript/),
    'cache-control': expect.stringContaining('immutable'),
    'content-length': String(brotliCompressSync(script).length),
    vary: 'Accept-Encoding',
  });
});

it('gives the file itself to who cannot', async () => {
  const { headers, text } = await accepting('identity').expect(200);
  expect(headers).not.toHaveProperty('content-encoding');
  expect(text).toBe(script);
});

it('has the page at every address but those of files', async () => {
  const { text } = await request(app).get('/project/1/timeline').expect(200);
  expect(text).toContain('<title>Hastig</title>');
  await request(app).get('/_expo/gone.js').expect(404);
});

it.each(['/%ff', '/_expo/%ff'])('refuses the address %s, which is no text', async (path) => {
  const { body } = await request(app)
    .get(path)
    .expect(400)
    .expect('Content-Type', /^application\/problem\+json/);
  expect(body).toMatchObject({ status: 400, title: 'This address isn’t valid.' });
});
