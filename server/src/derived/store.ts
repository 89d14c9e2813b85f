import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import {
  derivedKey,
  derivedKinds,
  derivedPieces,
  type DerivedKey,
  type DerivedPiece,
  problemTypes,
  type StoredDerived,
} from '@hastig/contract';
import { heard, writeFileFrom } from '../files/streams';
import { HttpProblem, notFound } from '../http/problem';
import { DerivedQuota } from './quota';
import type { MediaStore } from '../media/store';

/** How the name of a piece ends that is being written. */
export const PART = '.part';

// Proxies of an older version have an ending.
const pieceName = /^(\d{1,6})(?:\.mp4)?$/;

/**
 * What is derived from media files: a folder for each file, in it one for each thing that is derived, in that a file a piece.
 * What lies under a piece's name is whole; the folders themselves are the list of what is there.
 */
export class DerivedStore {
  readonly quota: DerivedQuota;

  /**
   * @param ready is kept when the folder is as it shall be
   * @param mostBytes of all that is derived
   */
  constructor(
    private readonly media: MediaStore,
    private readonly folder: string,
    private readonly ready: Promise<void>,
    mostBytes: number,
  ) {
    this.quota = new DerivedQuota(folder, mostBytes, ready);
  }

  /** All that is there in the current versions, also what is not complete. */
  async list(): Promise<StoredDerived[]> {
    await this.ready;
    const files = await readdir(this.folder).catch(() => [] as string[]);
    const all = await Promise.all(files.sort().map((sha256) => this.ofFile(sha256)));
    return all.flat();
  }

  /** Path and type of a piece. Throws 404 where it is not there. */
  async path(sha256: string, name: string, piece: number): Promise<{ path: string; mime: string }> {
    const { folder, key } = await this.place(sha256, name, piece);
    await this.quota.use(`${sha256}/${name}`);
    for (const ending of ['', '.mp4']) {
      const path = join(folder, `${piece}${ending}`);
      if (await isThere(path)) return { path, mime: derivedKinds[key.kind].mime };
    }
    throw notFound('piece');
  }

  /**
   * Keeps a piece; one that is there already is replaced.
   *
   * @throws HttpProblem 404 for a file that is not stored or a piece it does not have, 413 for too much, 422 for what is none
   */
  async put(sha256: string, name: string, piece: number, content: Readable): Promise<DerivedPiece> {
    // It is on its way while its place is looked up.
    heard(content);
    const { folder, key } = await this.place(sha256, name, piece);
    const { mostBytes, mark } = derivedKinds[key.kind];
    await mkdir(folder, { recursive: true });
    const path = join(folder, String(piece));
    const part = `${path}.${randomUUID()}${PART}`;
    const end = mark.at + mark.text.length;
    let bytes = 0;
    let head = Buffer.alloc(0);
    const watch = new Transform({
      transform: (chunk: Buffer, _encoding, done) => {
        bytes += chunk.length;
        if (head.length < end) head = Buffer.concat([head, chunk.subarray(0, end)]);
        done(bytes > mostBytes ? tooLarge(mostBytes) : null, chunk);
      },
    });
    const thing = `${sha256}/${name}`;
    const before = await stat(path).then(
      ({ size }) => size,
      () => 0,
    );
    try {
      await writeFileFrom(part, content, { through: [watch] });
      if (head.toString('latin1', mark.at, end) !== mark.text) {
        throw new HttpProblem(422, 'This isn’t a valid piece.', {
          detail: `It doesn’t start like a piece of ${name}.`,
        });
      }
      if (!(await this.quota.take(thing, bytes - before))) throw noRoom(this.quota.most);
      await rename(part, path).catch((error: unknown) => {
        this.quota.give(thing, bytes - before);
        throw error;
      });
    } finally {
      await rm(part, { force: true });
    }
    return { piece, bytes };
  }

  /** Takes what is derived away, also while it is being made. */
  async remove(sha256: string, name: string): Promise<void> {
    await this.media.facts(sha256);
    if (!derivedKey(name)) throw notFound('derived');
    await rm(join(this.folder, sha256, name), { recursive: true, force: true });
    this.quota.forget(`${sha256}/${name}`);
  }

  private async ofFile(sha256: string): Promise<StoredDerived[]> {
    const names = await readdir(join(this.folder, sha256)).catch(() => [] as string[]);
    const found = await Promise.all(
      names.sort().map(async (name) => {
        const key = derivedKey(name);
        const pieces = key ? await this.pieces(join(this.folder, sha256, name)) : [];
        return key && pieces.length > 0 ? [{ sha256, ...key, pieces }] : [];
      }),
    );
    return found.flat();
  }

  private async pieces(folder: string): Promise<DerivedPiece[]> {
    const names = await readdir(folder).catch(() => [] as string[]);
    const found = await Promise.all(
      names.flatMap((name) => {
        const piece = pieceName.exec(name)?.[1];
        return piece === undefined ? [] : [stat(join(folder, name)).then(({ size }) => [Number(piece), size] as const)];
      }),
    );
    return found.sort(([a], [b]) => a - b).map(([piece, bytes]) => ({ piece, bytes }));
  }

  private async place(sha256: string, name: string, piece: number): Promise<{ folder: string; key: DerivedKey }> {
    const facts = await this.media.facts(sha256);
    const key = derivedKey(name);
    if (!key || !(Number.isInteger(piece) && piece >= 0 && piece < derivedPieces(key, facts))) throw notFound('piece');
    return { folder: join(this.folder, sha256, name), key };
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

function noRoom(most: number): HttpProblem {
  return new HttpProblem(507, 'There is no room for this piece.', {
    type: problemTypes.storageFull,
    detail: `What is made from media may take ${most} bytes on this server.`,
  });
}

function tooLarge(most: number): HttpProblem {
  return new HttpProblem(413, 'The piece is too large.', { detail: `The limit for this kind is ${most} bytes.` });
}
