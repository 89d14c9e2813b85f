import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { spokenParts, SPOKEN_RATE, SPOKEN_SLOWLY } from './extras';

/** Debian's package with the speech synthesiser. */
const PACKAGE = 'espeak-ng';
/** Bytes before the samples of a WAVE file as the synthesiser writes it, and what is said of lengths in them. */
const HEADER = 44;

/** Samples of a part as it is said, without the pause the synthesiser makes after it. */
async function said(words: string, folder: string): Promise<Int16Array> {
  const path = join(folder, 'said.wav');
  try {
    await promisify(execFile)('espeak-ng', ['-v', 'en-gb', '-s', '140', '-z', '-w', path, words]);
  } catch (error) {
    throw new Error(`The spoken line can't be made. Install ${PACKAGE}.`, { cause: error });
  }
  const bytes = await readFile(path);
  if (bytes.readUInt32LE(24) !== SPOKEN_RATE || bytes.readUInt16LE(22) !== 1) throw new Error('another kind of file');
  return new Int16Array(bytes.buffer.slice(bytes.byteOffset + HEADER, bytes.byteOffset + bytes.length));
}

/**
 * Has the workshop's line said by a speech synthesiser and writes it as a WAVE file. It is said in two parts, so that the moment at
 * which the second begins is known to the sample.
 */
export async function makeSpoken(path: string): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-said-'));
  try {
    const [first, second] = [await said(spokenParts[0], folder), await said(spokenParts[1], folder)];
    const samples = new Int16Array(first.length + second.length);
    samples.set(first);
    samples.set(second, first.length);
    const header = Buffer.alloc(HEADER);
    header.write('RIFF', 0, 'latin1');
    header.writeUInt32LE(HEADER - 8 + samples.byteLength, 4);
    header.write('WAVEfmt ', 8, 'latin1');
    header.writeUInt32LE(16, 16);
    header.writeUInt16LE(1, 20);
    header.writeUInt16LE(1, 22);
    header.writeUInt32LE(SPOKEN_RATE, 24);
    header.writeUInt32LE(2 * SPOKEN_RATE, 28);
    header.writeUInt16LE(2, 32);
    header.writeUInt16LE(16, 34);
    header.write('data', 36, 'latin1');
    header.writeUInt32LE(samples.byteLength, 40);
    await writeFile(path, Buffer.concat([header, Buffer.from(samples.buffer)]));
    // Another release of the synthesiser may take another time to say it.
    if (first.length !== SPOKEN_SLOWLY) console.warn(`SPOKEN_SLOWLY has to be ${first.length} now`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
