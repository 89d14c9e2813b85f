import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { COPY_PIECE_BYTES, copyPieces, type CopyPiece, type StoredCopy } from '@hastig/contract';
import { HttpProblem, notFound } from '../http/problem';
import type { MediaStore } from '../media/store';

const pieceName = /^(\d{1,6})\.mp4$/;

/**
 * Scrubbing copies of media files, each in a folder of its own, a file a piece. What lies under a piece's name is whole;
 * the folder itself is the list of what is there.
 */
export class CopyStore {
  constructor(
    private readonly media: MediaStore,
    private readonly folder: string,
  ) {}

  /** All copies, also those that are not complete. */
  async list(): Promise<StoredCopy[]> {
    const names = await readdir(this.folder).catch(() => [] as string[]);
    const copies = await Promise.all(
      names.sort().map(async (sha256) => ({ sha256, pieces: await this.pieces(sha256) })),
    );
    return copies.filter(({ pieces }) => pieces.length > 0);
  }

  /** Path of a piece. Throws 404 where it is not there. */
  async path(sha256: string, piece: number): Promise<string> {
    const path = await this.place(sha256, piece);
    await stat(path).catch(() => {
      throw notFound('piece');
    });
    return path;
  }

  /**
   * Keeps a piece; one that is there already is replaced.
   *
   * @throws HttpProblem 404 for a file that is not stored or a piece it does not have, 413 for too much, 422 for what is no MP4
   */
  async put(sha256: string, piece: number, content: Readable): Promise<CopyPiece> {
    const path = await this.place(sha256, piece);
    await mkdir(join(this.folder, sha256), { recursive: true });
    const part = `${path}.${randomUUID()}.part`;
    let bytes = 0;
    let head = Buffer.alloc(0);
    const watch = new Transform({
      transform: (chunk: Buffer, _encoding, done) => {
        bytes += chunk.length;
        if (head.length < 8) head = Buffer.concat([head, chunk.subarray(0, 8)]);
        done(bytes > COPY_PIECE_BYTES ? tooLarge() : null, chunk);
      },
    });
    try {
      await pipeline(content, watch, createWriteStream(part));
      // ISO/IEC 14496-12, 4.3: a file begins with its type.
      if (head.toString('latin1', 4, 8) !== 'ftyp') throw new HttpProblem(422, 'This is no piece of a scrubbing copy.');
      await rename(part, path);
    } finally {
      await rm(part, { force: true });
    }
    return { piece, bytes };
  }

  /** Takes a copy away, also one that is being made. */
  async remove(sha256: string): Promise<void> {
    await this.media.facts(sha256);
    await rm(join(this.folder, sha256), { recursive: true, force: true });
  }

  private async pieces(sha256: string): Promise<CopyPiece[]> {
    const folder = join(this.folder, sha256);
    const names = await readdir(folder).catch(() => [] as string[]);
    const found = await Promise.all(
      names.flatMap((name) => {
        const piece = pieceName.exec(name)?.[1];
        return piece === undefined ? [] : [stat(join(folder, name)).then(({ size }) => [Number(piece), size] as const)];
      }),
    );
    return found.sort(([a], [b]) => a - b).map(([piece, bytes]) => ({ piece, bytes }));
  }

  private async place(sha256: string, piece: number): Promise<string> {
    const { video } = await this.media.facts(sha256);
    if (!(Number.isInteger(piece) && piece >= 0 && piece < copyPieces(video.frames))) throw notFound('piece');
    return join(this.folder, sha256, `${piece}.mp4`);
  }
}

function tooLarge(): HttpProblem {
  return new HttpProblem(413, 'The piece is too large.', {
    detail: `A piece of a scrubbing copy has at most ${COPY_PIECE_BYTES} bytes.`,
  });
}
