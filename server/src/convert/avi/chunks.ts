import type { FileHandle } from 'node:fs/promises';

/** A chunk of a RIFF file. */
export interface Chunk {
  name: string;
  /** Bytes from the file's beginning: of its content, and behind it. */
  from: number;
  to: number;
}

/** Bytes that are read at a time. */
const PIECE = 2 ** 20;
/** What a list begins with: its name, its length and its kind. */
const LIST = 12;
const HEAD = 8;
/** Four letters, digits or the like. */
const NAME = /^[\x20-\x7e]{4}$/;

/** What stands in an AVI after one another. */
const USUAL = /^(\d\d(dc|db|wb|pc|tx)|ix\d\d|LIST|RIFF|JUNK|idx1)$/;

/** Reads a file from its beginning on, a piece at a time. */
export class PieceReader {
  private piece: Buffer = Buffer.alloc(0);
  private at = 0;

  constructor(
    private readonly file: FileHandle,
    private readonly signal?: AbortSignal,
  ) {}

  /** Bytes at a place, fewer where the file ends; good until the next are read. */
  async bytes(from: number, length: number): Promise<Buffer> {
    if (from < this.at || from + length > this.at + this.piece.length) {
      this.signal?.throwIfAborted();
      const { buffer, bytesRead } = await this.file.read(Buffer.alloc(Math.max(length, PIECE)), 0, undefined, from);
      [this.piece, this.at] = [buffer.subarray(0, bytesRead), from];
    }
    return this.piece.subarray(from - this.at, from - this.at + length);
  }
}

/**
 * The chunks of a RIFF file, and those in its lists, one after another: what lists there are is of no consequence, and how long one says
 * that it is may be wrong where a camera lost its power. Ends with the file, or where no chunk can begin.
 * "Multimedia Programming Interface and Data Specifications 1.0", 1991.
 */
export async function* chunksOf(reader: PieceReader, bytes: number): AsyncGenerator<Chunk> {
  for (let at = 0; at + HEAD <= bytes;) {
    const head = await reader.bytes(at, LIST);
    const [name, size] = [head.toString('latin1', 0, 4), head.readUInt32LE(4)];
    if (!NAME.test(name)) return;
    if (name === 'LIST' || name === 'RIFF') at += LIST;
    else {
      yield { name, from: at + HEAD, to: at + HEAD + size };
      at = await behind(reader, at + HEAD + size, size);
    }
  }
}

/** Where the next chunk begins: at an even place, but some writers forget to fill up an odd one (common practice). */
async function behind(reader: PieceReader, end: number, size: number): Promise<number> {
  if (size % 2 === 0) return end;
  const next = (await reader.bytes(end, 5)).toString('latin1');
  return USUAL.test(next.slice(0, 4)) && !USUAL.test(next.slice(1)) ? end : end + 1;
}
