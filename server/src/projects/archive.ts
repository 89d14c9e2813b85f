import { open, readFile, stat } from 'node:fs/promises';
import type { Readable, Writable } from 'node:stream';
import { promisify } from 'node:util';
import { checkProjectFile, PROJECT_FILE_KIND, type ProjectDocument, type ProjectFile } from '@hastig/contract';
import archiver from 'archiver';
import { open as openFile, type Entry as ZipEntry, type Options, type ZipFile } from 'yauzl';
import { HttpProblem, invalid } from '../http/problem';
import type { MediaStore } from '../media/store';
import { wholeDocument } from './store';

/** Names inside an archive. */
const PROJECT_NAME = 'project.json';
const mediaName = (sha256: string): string => `media/${sha256}`;
const mediaPattern = /^media\/([0-9a-f]{64})$/;

/** Largest project file without media, in bytes. */
const MOST_JSON = 64 * 2 ** 20;

/** A project as one JSON file; its media are named in it by their digests. */
export function projectFile(document: ProjectDocument): ProjectFile {
  return { kind: PROJECT_FILE_KIND, document };
}

/** Writes a project and its media as an uncompressed ZIP, file after file, nothing whole in memory. */
export async function writeArchive(document: ProjectDocument, media: MediaStore, out: Writable): Promise<void> {
  const archive = archiver('zip', { store: true });
  const failed = new Promise<never>((_, reject) => {
    archive.on('error', reject);
    // A reader that goes away ends the work.
    out.on('close', () => out.writableFinished || reject(new Error('the archive was not read to its end')));
  });
  archive.pipe(out);
  archive.append(JSON.stringify(projectFile(document), undefined, 1), { name: PROJECT_NAME });
  for (const sha256 of new Set(document.sources.map((source) => source.sha256))) {
    archive.file(await media.path(sha256), { name: mediaName(sha256) });
  }
  await Promise.race([archive.finalize(), failed]);
}

function parsed(text: string): ProjectDocument {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new HttpProblem(422, 'This is no project file.', { detail: 'It is neither JSON nor a ZIP archive.' });
  }
  const file = checkProjectFile(json);
  if (!file.ok) throw invalid(file.errors);
  return wholeDocument(file.value.document);
}

/**
 * Reads a project from a file: JSON, whose media must be stored already, or an archive, whose media are taken in.
 *
 * @throws HttpProblem 422 for what is none, is damaged, or asks for media that are not here, naming them
 */
export async function readProject(path: string, media: MediaStore): Promise<ProjectDocument> {
  const document = (await isZip(path)) ? await readArchive(path, media) : await readJson(path);
  const missing: string[] = [];
  for (const { name, sha256 } of document.sources) if (!(await media.has(sha256))) missing.push(name);
  if (missing.length > 0) {
    throw new HttpProblem(422, 'The project needs media that are not here.', {
      detail: `Missing: ${missing.join(', ')}. Bring in the archive that has the media with it.`,
    });
  }
  return document;
}

async function isZip(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer } = await file.read(Buffer.alloc(4), 0, 4, 0);
    return buffer.readUInt32LE(0) === 0x04034b50;
  } finally {
    await file.close();
  }
}

async function readJson(path: string): Promise<ProjectDocument> {
  if ((await stat(path)).size > MOST_JSON) throw new HttpProblem(413, 'The project file is too large.');
  return parsed(await readFile(path, 'utf8'));
}

async function readArchive(path: string, media: MediaStore): Promise<ProjectDocument> {
  let document: ProjectDocument | undefined;
  try {
    for await (const entry of entriesOf(path)) {
      if (entry.name === PROJECT_NAME) document = parsed(await textOf(await entry.open()));
      const sha256 = mediaPattern.exec(entry.name)?.[1];
      if (sha256 && !(await media.again(sha256))) await media.adoptStream(await entry.open(), sha256);
    }
  } catch (error) {
    if (error instanceof HttpProblem) throw error;
    throw new HttpProblem(422, 'The archive is damaged.', { detail: (error as Error).message });
  }
  if (!document)
    throw new HttpProblem(422, 'The archive holds no project.', { detail: `There is no ${PROJECT_NAME} in it.` });
  return document;
}

interface Entry {
  name: string;
  open(): Promise<Readable>;
}

const openZip = promisify<string, Options, ZipFile>((path, options, done) => openFile(path, options, done));

// Names are only compared, never used as paths, so that none leads out of the media folder.
async function* entriesOf(path: string): AsyncGenerator<Entry> {
  const zip = await openZip(path, { lazyEntries: true, autoClose: false });
  const streamOf = promisify<ZipEntry, Readable>((entry, done) => zip.openReadStream(entry, done));
  const next = (): Promise<ZipEntry | undefined> =>
    new Promise((resolve, reject) => {
      zip.removeAllListeners();
      zip
        .once('entry', resolve)
        .once('end', () => resolve(undefined))
        .once('error', reject);
      zip.readEntry();
    });
  try {
    for (let entry = await next(); entry; entry = await next()) {
      const current = entry;
      yield { name: current.fileName, open: () => streamOf(current) };
    }
  } finally {
    zip.close();
  }
}

// By events: these streams never say that they are closed, for which walking through them would wait.
function textOf(stream: Readable): Promise<string> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  return new Promise((resolve, reject) => {
    stream.on('data', (piece: Buffer) => {
      bytes += piece.length;
      if (bytes <= MOST_JSON) pieces.push(piece);
      else reject(new HttpProblem(413, 'The project file is too large.'));
    });
    stream.once('end', () => resolve(Buffer.concat(pieces).toString('utf8')));
    stream.once('error', reject);
  });
}
