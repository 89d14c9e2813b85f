import type { Readable } from 'node:stream';
import { open as openFile, type Entry, type ZipFile } from 'yauzl';
import { HttpProblem } from '../http/problem';
import { heard } from './streams';

/** Files in an archive at most: a project has no more sources. */
const MOST_ENTRIES = 20_000;

export const damagedArchive = (detail: string): HttpProblem =>
  new HttpProblem(422, 'The archive is damaged.', { detail });

const faults = new WeakSet<Error>();

/** An error as it is to be told: what the archive's own content failed with is damage, all else is what it is. */
function archiveFault(error: unknown): unknown {
  return faults.has(error as Error) ? damagedArchive((error as Error).message) : error;
}

function openZip(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) =>
    openFile(path, { lazyEntries: true, autoClose: false }, (error, zip) => {
      if (!error) resolve(zip);
      else reject('syscall' in error ? error : damagedArchive(error.message));
    }),
  );
}

function streamOf(zip: ZipFile, entry: Entry): Promise<Readable> {
  return new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) reject(damagedArchive(error.message));
      else resolve(heard(stream).once('error', (fault: NodeJS.ErrnoException) => fault.syscall ?? faults.add(fault)));
    }),
  );
}

/**
 * Goes through a ZIP archive's entries. Names are only compared, never used as paths, so that none leads out of a folder. What is read
 * of an entry is no more than its size says (yauzl, validateEntrySize).
 *
 * @param use is given a way to read the entry; `false` ends it
 * @throws HttpProblem 422 for an archive that is damaged
 */
export async function eachEntry(
  path: string,
  use: (entry: Entry, read: () => Promise<Readable>) => Promise<boolean | void>,
): Promise<void> {
  const zip = await openZip(path);
  const next = (): Promise<Entry | undefined> =>
    new Promise((resolve, reject) => {
      zip.removeAllListeners();
      zip
        .once('entry', resolve)
        .once('end', () => resolve(undefined))
        .once('error', (error: NodeJS.ErrnoException) => reject(error.syscall ? error : damagedArchive(error.message)));
      zip.readEntry();
    });
  try {
    if (zip.entryCount > MOST_ENTRIES) throw damagedArchive(`It claims to contain ${zip.entryCount} files.`);
    for (let entry = await next(); entry; entry = await next()) {
      const current = entry;
      if ((await use(current, () => streamOf(zip, current))) === false) return;
    }
  } catch (error) {
    throw archiveFault(error);
  } finally {
    zip.removeAllListeners().on('error', () => undefined);
    zip.close();
  }
}
