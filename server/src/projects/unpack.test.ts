import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newProject } from '@hastig/core';
import archiver from 'archiver';
import { mediaName, PROJECT_NAME } from './archive-names';
import { unpackProject } from './unpack';
import { projectFile } from './write-archive';

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'hastig-unpack-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

/** An archive of a project that needs one file; `content` lies under the name of what it should be. */
async function archived(should: string, content: string): Promise<{ path: string; sha256: string }> {
  const sha256 = createHash('sha256').update(should).digest('hex');
  const source = {
    ...{ id: 's', name: 'Roll.wav', sha256, markers: [] },
    facts: { container: 'WAVE', mime: 'audio/wav', bytes: should.length, video: null, audio: { codec: 'pcm-s16', channels: 1, sampleRate: 48_000, seconds: 1 } }, // prettier-ignore
  };
  const document = { ...newProject('Marbles'), sources: [source] };
  const path = join(folder, 'film.zip');
  const zip = archiver('zip', { store: true });
  const out = createWriteStream(path);
  const closed = new Promise<void>((resolve) => out.on('close', () => resolve()));
  zip.pipe(out);
  zip.append(JSON.stringify(projectFile(document as never)), { name: PROJECT_NAME });
  zip.append(content, { name: mediaName(sha256) });
  // What the project does not name stays where it is.
  zip.append('other', { name: mediaName('0'.repeat(64)) });
  await zip.finalize();
  await closed;
  return { path, sha256 };
}

it('a project is read with its media, and those alone', async () => {
  const { path, sha256 } = await archived('knock', 'knock');
  const to = join(folder, 'media');
  await mkdir(to);
  const { document, media } = await unpackProject(path, to);
  expect([document.name, [...media.keys()]]).toEqual(['Marbles', [sha256]]);
  expect(await readFile(media.get(sha256)!, 'utf8')).toBe('knock');
  expect(await readdir(to)).toEqual([sha256]);
  const unread = await unpackProject(path);
  expect([unread.media.size, [...unread.held]]).toEqual([0, [sha256]]);
});

it('media that are not what their names say, and files that are no project, are refused', async () => {
  const { path } = await archived('knock', 'other');
  await expect(unpackProject(path, folder)).rejects.toThrow('The archive is damaged.');
  const text = join(folder, 'text.json');
  await writeFile(text, '{"kind":');
  await expect(unpackProject(text)).rejects.toThrow('isn’t a project file');
  await writeFile(text, JSON.stringify({ kind: 'hastig-project', document: {} }));
  await expect(unpackProject(text)).rejects.toThrow('can’t be read');
});
