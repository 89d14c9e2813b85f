import { spawn } from 'node:child_process';
import { open } from 'node:fs/promises';
import { bounded } from './bounded';
import { environment, tools } from './framework';

/** What an AVI says of a video in MPEG-4 Visual. */
export interface FoundAvi {
  /** Frames a second, as a fraction: an AVI has no times but these. */
  rate: { num: number; den: number };
  /** Pieces in which its pictures are stored, each a picture as a rule. */
  frames: number;
}

/** Bytes at the beginning in which what is in a file is told. */
const HEAD = 2 ** 16;
/** Lists within each other: more than an AVI has. */
const DEEPEST = 8;
/** What MPEG-4 Visual is called there: names of several programs that made it (common practice). */
const NAMES = ['DIVX', 'XVID', 'DX50', 'FMP4', 'MP4V', 'MP4S', 'M4S2'];

/** Chunks of a RIFF file between two places, and those in its lists: "Multimedia Programming Interface and Data Specifications 1.0", 1991. */
function* chunks(bytes: Buffer, from: number, to: number, within = 0): Generator<{ name: string; content: Buffer }> {
  for (let at = from; at + 8 <= to;) {
    const [name, size] = [bytes.toString('latin1', at, at + 4), bytes.readUInt32LE(at + 4)];
    const end = Math.min(to, at + 8 + size);
    if ((name === 'LIST' || name === 'RIFF') && within < DEEPEST) yield* chunks(bytes, at + 12, end, within + 1);
    else yield { name, content: bytes.subarray(at + 8, end) };
    at += 8 + size + (size % 2);
  }
}

/** Reads what an AVI says of its first video; undefined for another file, or another coding than MPEG-4 Visual. */
export async function readAvi(path: string): Promise<FoundAvi | undefined> {
  const file = await open(path);
  const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD), 0, HEAD, 0).finally(() => file.close());
  const bytes = buffer.subarray(0, bytesRead);
  if (bytes.toString('latin1', 0, 4) !== 'RIFF' || bytes.toString('latin1', 8, 12) !== 'AVI ') return undefined;
  let found: FoundAvi | undefined;
  for (const { name, content } of chunks(bytes, 0, bytes.length)) {
    // `strh` of 56 bytes, and a picture's head in the `strf` that follows it.
    if (name === 'strh' && content.length >= 36 && content.toString('latin1', 0, 4) === 'vids')
      found = { rate: { num: content.readUInt32LE(24), den: content.readUInt32LE(20) }, frames: content.readUInt32LE(32) }; // prettier-ignore
    if (name !== 'strf' || !found) continue;
    const isVisual = content.length >= 20 && NAMES.includes(content.toString('latin1', 16, 20).toUpperCase());
    return isVisual && found.rate.num > 0 && found.rate.den > 0 ? found : undefined;
  }
  return undefined;
}

/** The video of an AVI by itself, in pieces: what it is cut into tells wrong times where pictures are stored in another order. */
export async function* videoInAvi(path: string): AsyncGenerator<Buffer> {
  const [tool, args] = bounded(tools.launch, ['-q', 'filesrc', `location=${path}`, '!', 'avidemux', 'name=d', 'd.video_0', '!', 'fdsink', 'fd=1']); // prettier-ignore
  const child = spawn(tool, args, { env: environment, stdio: ['ignore', 'pipe', 'ignore'] });
  // What is missing then is found by counting.
  child.on('error', () => child.stdout.destroy());
  try {
    for await (const piece of child.stdout) yield piece as Buffer;
  } finally {
    child.kill('SIGKILL');
  }
}
