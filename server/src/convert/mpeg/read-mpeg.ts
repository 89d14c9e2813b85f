import { open } from 'node:fs/promises';
import type { FoundPictures } from './pictures';
import { ProgramStream } from './program-stream';
import { packetsOf, TransportStream } from './transport-stream';

/** What is known of an MPEG stream without decoding it. */
export interface FoundMpeg {
  /** Pictures of its video; undefined where it is neither MPEG-1 nor MPEG-2, or there is none. */
  pictures: FoundPictures | undefined;
  /** A program stream that begins with a map of what is in it. */
  beginsWithMap: boolean;
}

const PIECE = 2 ** 20;
const PACK = Buffer.from([0, 0, 1, 0xba]);

/** Reads a whole program or transport stream; undefined for a file of another kind. */
export async function readMpeg(path: string, signal?: AbortSignal): Promise<FoundMpeg | undefined> {
  const file = await open(path);
  try {
    const piece = Buffer.alloc(PIECE);
    let stream: ProgramStream | TransportStream | undefined;
    for (let at = 0; ;) {
      signal?.throwIfAborted();
      const { bytesRead } = await file.read(piece, 0, PIECE, at);
      let bytes = piece.subarray(0, bytesRead);
      if (!stream) {
        const packets = packetsOf(bytes);
        if (bytes.subarray(0, PACK.length).equals(PACK)) stream = new ProgramStream();
        else if (packets) {
          stream = new TransportStream(packets.stride);
          bytes = bytes.subarray(packets.from);
        } else return undefined;
      }
      if (bytesRead === 0) break;
      stream.push(bytes);
      at += bytesRead;
    }
    return { pictures: stream.end(), beginsWithMap: stream instanceof ProgramStream && stream.beginsWithMap };
  } finally {
    await file.close();
  }
}
