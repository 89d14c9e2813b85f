import { open } from 'node:fs/promises';
import { PictureCounter, type FoundPictures, type VideoPiece } from './pictures';
import { ProgramStream } from './program-stream';
import { packetsOf, TransportStream } from './transport-stream';

/** What is known of an MPEG stream without decoding it. */
export interface FoundMpeg {
  /** Pictures of its video; undefined where it is neither MPEG-1 nor MPEG-2, or there is none. */
  pictures: FoundPictures | undefined;
  /** A program stream that begins with a map of what is in it. */
  beginsWithMap: boolean;
  /** Ticks, 90,000 a second, at which its first sound begins. */
  soundFrom: number | undefined;
}

/** Bytes that are read at a time. */
const PIECE = 2 ** 20;
const PACK = Buffer.from([0, 0, 1, 0xba]);

/** A stream of the kind that a file begins as; undefined for any other. */
function streamIn(beginning: Buffer): ProgramStream | TransportStream | undefined {
  if (beginning.subarray(0, PACK.length).equals(PACK)) return new ProgramStream();
  const packets = packetsOf(beginning);
  return packets && new TransportStream(packets.stride, packets.from);
}

/** Reads the first video of a program or transport stream, in pieces whose bytes are good until the next; ends at once for another file. */
async function* read(
  path: string,
  signal?: AbortSignal,
): AsyncGenerator<VideoPiece[], ProgramStream | TransportStream | undefined> {
  // prettier-ignore
  const file = await open(path);
  try {
    const piece = Buffer.alloc(PIECE);
    let stream: ProgramStream | TransportStream | undefined;
    for (let at = 0; ;) {
      signal?.throwIfAborted();
      const { bytesRead } = await file.read(piece, 0, PIECE, at);
      const bytes = piece.subarray(0, bytesRead);
      stream ??= streamIn(bytes);
      if (!stream) return undefined;
      if (bytesRead === 0) break;
      yield stream.push(bytes);
      at += bytesRead;
    }
    yield stream.end();
    return stream;
  } finally {
    await file.close();
  }
}

/** Reads a whole program or transport stream; undefined for a file of another kind. */
export async function readMpeg(path: string, signal?: AbortSignal): Promise<FoundMpeg | undefined> {
  const counter = new PictureCounter();
  const reading = read(path, signal);
  for (;;) {
    const { value, done } = await reading.next();
    if (!done) for (const piece of value) counter.push(piece);
    else if (!value) return undefined;
    else return { pictures: counter.end(), beginsWithMap: value.beginsWithMap, soundFrom: value.soundFrom };
  }
}

/** The video of such a stream by itself, in pieces. */
export async function* videoIn(path: string, signal?: AbortSignal): AsyncGenerator<Buffer> {
  for await (const pieces of read(path, signal)) yield Buffer.concat(pieces.map(({ bytes }) => bytes));
}
