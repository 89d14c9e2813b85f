import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { spokenParts, SPOKEN_RATE, SPOKEN_SLOWLY } from './extras';

/** Debian's package with the speech synthesiser. */
const PACKAGE = 'espeak-ng';
/** Bytes before the samples of a WAVE file as the synthesiser writes it, and where lengths stand in them. */
const HEADER = 44;
const FILE_LENGTH = 4;
const DATA_LENGTH = 40;

/** A part as the synthesiser says it: its file, without a pause at the end. */
async function said(words: string, folder: string): Promise<Buffer> {
  const path = join(folder, 'said.wav');
  try {
    await promisify(execFile)('espeak-ng', ['-v', 'en-gb', '-s', '140', '-z', '-w', path, words]);
  } catch (error) {
    throw new Error(`The spoken line can't be made. Install ${PACKAGE}.`, { cause: error });
  }
  const bytes = await readFile(path);
  if (bytes.readUInt32LE(24) !== SPOKEN_RATE || bytes.readUInt16LE(22) !== 1) throw new Error('another kind of file');
  return bytes;
}

/**
 * Has the workshop's line said by a speech synthesiser and writes it as a WAVE file. It is said in two parts, so that the moment at
 * which the second begins is known to the sample.
 */
export async function makeSpoken(path: string): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-said-'));
  try {
    const [first, second] = [await said(spokenParts[0], folder), await said(spokenParts[1], folder)];
    const whole = Buffer.concat([first, second.subarray(HEADER)]);
    whole.writeUInt32LE(whole.length - 8, FILE_LENGTH);
    whole.writeUInt32LE(whole.length - HEADER, DATA_LENGTH);
    await writeFile(path, whole);
    // Another release of the synthesiser may take another time to say it.
    const begins = (first.length - HEADER) / 2;
    if (begins !== SPOKEN_SLOWLY) console.warn(`SPOKEN_SLOWLY has to be ${begins} now`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
