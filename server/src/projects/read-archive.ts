import { open, readFile, stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { open as openFile, type Entry as ZipEntry, type Options, type ZipFile } from 'yauzl';
import { HttpProblem } from '../http/problem';
import type { MediaStore } from '../media/store';
import type { WorkPool } from '../work/pool';
import type { ReadyDocument } from '../work/read-document';
import { mediaOfName, PROJECT_NAME } from './archive-names';
import { readyOr } from './ready';

/** Largest project file without media, in bytes. */
const MOST_JSON = 64 * 2 ** 20;
/** Files in an archive at most: a project has no more sources. */
const MOST_ENTRIES = 20_000;
/** How many times as large as in the archive a media file may be: what is recorded does not get much smaller by packing. */
const MOST_RATIO = 4;

const damaged = (detail: string): HttpProblem => new HttpProblem(422, 'The archive is damaged.', { detail });
const tooLarge = (): HttpProblem => new HttpProblem(413, 'The project file is too large.');

/**
 * Reads a project from a file: JSON, whose media must be stored already, or an archive, whose media are taken in.
 *
 * @throws HttpProblem 422 for what is none, is damaged, or asks for media that are not here, naming them
 */
export async function readProject(path: string, media: MediaStore, work: WorkPool): Promise<ReadyDocument> {
  const ready = (await isZip(path)) ? await readArchive(path, media, work) : await readJson(path, work);
  const missing: string[] = [];
  for (const { name, sha256 } of ready.media) if (!(await media.has(sha256))) missing.push(name);
  if (missing.length > 0) {
    throw new HttpProblem(422, 'The project needs media that aren’t here.', {
      detail: `Missing: ${missing.join(', ')}. Import the project file that includes its media.`,
    });
  }
  return ready;
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

async function parsed(text: string, work: WorkPool): Promise<ReadyDocument> {
  return readyOr(
    await work.readDocument(text, 'file'),
    () => new HttpProblem(422, 'This isn’t a project file.', { detail: 'It is neither JSON nor a ZIP archive.' }),
  );
}

async function readJson(path: string, work: WorkPool): Promise<ReadyDocument> {
  if ((await stat(path)).size > MOST_JSON) throw tooLarge();
  return parsed(await readFile(path, 'utf8'), work);
}

// The project first, wherever it lies: only media that it names are taken in.
async function readArchive(path: string, media: MediaStore, work: WorkPool): Promise<ReadyDocument> {
  let ready: ReadyDocument | undefined;
  await eachEntry(path, async ({ fileName, uncompressedSize }, read) => {
    if (fileName !== PROJECT_NAME || ready) return;
    if (uncompressedSize > MOST_JSON) throw tooLarge();
    ready = await parsed(await textOf(await read()), work);
  });
  if (!ready) {
    throw new HttpProblem(422, 'The archive contains no project.', { detail: `It has no ${PROJECT_NAME}.` });
  }
  const wanted = new Set(ready.media.map(({ sha256 }) => sha256));
  await eachEntry(path, async ({ fileName, uncompressedSize, compressedSize }, read) => {
    const sha256 = mediaOfName(fileName);
    if (!sha256 || !wanted.delete(sha256) || (await media.again(sha256))) return;
    if (uncompressedSize > MOST_RATIO * compressedSize)
      throw damaged(`The media file ${sha256} in it isn’t media Hastig can read.`);
    await media.adoptStream(await read(), sha256).catch((error: NodeJS.ErrnoException) => {
      // What the disk says is not the archive's fault.
      throw error instanceof HttpProblem || error.syscall ? error : damaged(error.message);
    });
  });
  return ready;
}

const openZip = promisify<string, Options, ZipFile>((path, options, done) => openFile(path, options, done));

// Names are only compared, never used as paths, so that none leads out of the media folder. What is read of an entry is no
// more than its size says (yauzl, validateEntrySize).
async function eachEntry(
  path: string,
  use: (entry: ZipEntry, read: () => Promise<Readable>) => Promise<void>,
): Promise<void> {
  const zip = await openZip(path, { lazyEntries: true, autoClose: false }).catch((error: Error) => {
    throw damaged(error.message);
  });
  const streamOf = promisify<ZipEntry, Readable>((entry, done) => zip.openReadStream(entry, done));
  const next = (): Promise<ZipEntry | undefined> =>
    new Promise((resolve, reject) => {
      zip.removeAllListeners();
      zip
        .once('entry', resolve)
        .once('end', () => resolve(undefined))
        .once('error', (error: Error) => reject(damaged(error.message)));
      zip.readEntry();
    });
  try {
    if (zip.entryCount > MOST_ENTRIES) throw damaged(`It claims to contain ${zip.entryCount} files.`);
    for (let entry = await next(); entry; entry = await next()) {
      const current = entry;
      await use(current, () =>
        streamOf(current).catch((error: Error) => {
          throw damaged(error.message);
        }),
      );
    }
  } finally {
    zip.close();
  }
}

// By events: these streams never say that they are closed, for which walking through them would wait.
function textOf(stream: Readable): Promise<string> {
  const pieces: Buffer[] = [];
  return new Promise((resolve, reject) => {
    stream.on('data', (piece: Buffer) => pieces.push(piece));
    stream.once('end', () => resolve(Buffer.concat(pieces).toString('utf8')));
    stream.once('error', (error) => reject(damaged(error.message)));
  });
}
