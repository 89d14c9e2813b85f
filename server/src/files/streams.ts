import { createReadStream, createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import type { Duplex, Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/**
 * The one way in which streams are begun here. A stream that fails while nobody listens ends the process, and it may fail as soon as
 * it is made: so it is listened to in the same breath, and what becomes of it is told by whoever carries it on.
 */

/** Listens to a stream from now on; what it says is told by the pipeline that it goes into, also when it has failed before. */
export function heard<Stream extends Readable>(stream: Stream): Stream {
  stream.on('error', () => undefined);
  return stream;
}

interface WriteOptions {
  /** What the content goes through on its way. */
  through?: readonly Duplex[];
  /** Byte of a file that is there at which writing begins; else the file is made anew. */
  start?: number;
  /** Waits until it is on the disk, not only given to the system. */
  kept?: boolean;
}

/**
 * Writes a stream's content to a file.
 *
 * @param begin makes the stream, or is one that was listened to
 * @returns how many bytes were written
 */
export async function writeFileFrom(
  path: string,
  begin: Readable | (() => Promise<Readable>),
  { through = [], start, kept = false }: WriteOptions = {},
): Promise<number> {
  const content = typeof begin === 'function' ? await begin() : heard(begin);
  const file = createWriteStream(path, start === undefined ? { flush: kept } : { flags: 'r+', start, flush: kept });
  await pipeline([content, ...through, file]);
  return file.bytesWritten;
}

/** Carries a stream's content into another, to its end. */
export async function carry(content: Readable, into: Writable): Promise<void> {
  await pipeline(heard(content), into);
}

/** Reads a file into something that takes bytes. */
export async function readFileInto(path: string, into: Writable): Promise<void> {
  await pipeline(createReadStream(path, { highWaterMark: 2 ** 20 }), into);
}

/**
 * Waits until a file, or a folder's list of names, is on the disk: what was acknowledged is still there after a loss of power.
 * What a file system does not do for folders it need not do.
 */
export async function settle(path: string, isFolder = false): Promise<void> {
  const file = await open(path, 'r');
  try {
    await file.sync().catch((error: NodeJS.ErrnoException) => {
      if (!(isFolder && ['EINVAL', 'ENOTSUP', 'EISDIR', 'EPERM'].includes(error.code ?? ''))) throw error;
    });
  } finally {
    await file.close();
  }
}
