import { open, readFile, stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { PROJECT_NAME } from '../projects/archive-names';
import { damagedArchive, eachEntry } from '../files/zip';
import { HttpProblem } from '../http/problem';
import { readDocument, type ReadOutcome } from './read-document';

/** Largest project file without media, in bytes. */
const MOST_JSON = 64 * 2 ** 20;
/** How many times as large as in the archive a project may be; what programs write gets some ten to thirty times smaller. */
const MOST_RATIO = 200;
/** Bytes up to which a project may be packed as small as it likes. */
const SMALL = 2 ** 20;

/** What a project file is, or the problem with it; and whether it is an archive that may bring media. */
export type FileOutcome =
  (ReadOutcome & { isArchive: boolean }) | { problem: { status: number; title: string; detail?: string } };

const tooLarge = (): HttpProblem => new HttpProblem(413, 'The project file is too large.');

/** Reads the project of a file on this machine: JSON, or an archive that has it in it. */
export async function readProjectFile(path: string): Promise<FileOutcome> {
  try {
    if (await isZip(path)) return { ...readDocument(await packedProject(path), 'file'), isArchive: true };
    if ((await stat(path)).size > MOST_JSON) throw tooLarge();
    return { ...readDocument(await readFile(path, 'utf8'), 'file'), isArchive: false };
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    const { status, title, more } = error;
    return { problem: { status, title, ...(more.detail && { detail: more.detail }) } };
  }
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

async function packedProject(path: string): Promise<string> {
  let text: string | undefined;
  await eachEntry(path, async ({ fileName, uncompressedSize, compressedSize }, read) => {
    if (fileName !== PROJECT_NAME) return true;
    if (uncompressedSize > MOST_JSON) throw tooLarge();
    if (uncompressedSize > Math.max(SMALL, MOST_RATIO * compressedSize))
      throw damagedArchive('The project in it claims to be far larger than it is packed.');
    text = await textOf(await read());
    return false;
  });
  if (text === undefined)
    throw new HttpProblem(422, 'The archive contains no project.', { detail: `It has no ${PROJECT_NAME}.` });
  return text;
}

// By events: these streams never say that they are closed, for which walking through them would wait.
function textOf(stream: Readable): Promise<string> {
  const pieces: Buffer[] = [];
  return new Promise((resolve, reject) => {
    stream.on('data', (piece: Buffer) => pieces.push(piece));
    stream.once('end', () => resolve(Buffer.concat(pieces).toString('utf8')));
    stream.once('error', reject);
    if (stream.errored) reject(stream.errored);
  });
}
