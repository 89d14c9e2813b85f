import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { copyFile, mkdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { checkMediaFacts, describeErrors, problemTypes, type MediaFacts, type StoredMedia } from '@hastig/contract';
import type { Knex } from 'knex';
import { HttpProblem, notFound } from '../http/problem';
import type { WorkPool } from '../work/pool';

interface MediaRow {
  sha256: string;
  facts: MediaFacts;
}

const sha256Pattern = /^[0-9a-f]{64}$/;

/**
 * Media files by the SHA-256 of their content, each stored once. A file gets its name only when it is whole and
 * has been read as media, so what lies in the folder is always good.
 */
export class MediaStore {
  /** @param folder where the files lie; made if it is not there */
  constructor(
    private readonly knex: Knex,
    private readonly folder: string,
    private readonly work: WorkPool,
  ) {}

  /** Path of a stored file. Throws 404 for anything that is not the digest of one. */
  async path(sha256: string): Promise<string> {
    await this.facts(sha256);
    const path = await this.find(sha256);
    if (!path) throw notFound('media');
    return path;
  }

  /** Path of a stored file, if it is there. */
  async find(sha256: string): Promise<string | undefined> {
    const path = this.place(sha256);
    return (await this.has(sha256)) && (await isFile(path)) ? path : undefined;
  }

  /** Whether a file of this digest is stored. */
  async has(sha256: string): Promise<boolean> {
    return (await this.knex<MediaRow>('media').where({ sha256 }).first()) !== undefined;
  }

  /** Brings a stored file in again, so that it counts as new. @returns whether it is stored */
  async again(sha256: string): Promise<boolean> {
    return (await this.knex('media').where({ sha256 }).update({ imported_at: this.knex.fn.now() })) > 0;
  }

  async facts(sha256: string): Promise<MediaFacts> {
    if (!sha256Pattern.test(sha256)) throw notFound('media');
    const row = await this.knex<MediaRow>('media').where({ sha256 }).first();
    if (!row) throw notFound('media');
    return row.facts;
  }

  /**
   * Takes a file into the store by moving it.
   *
   * @throws HttpProblem 422 with the reason for a file that cannot be used
   */
  async adopt(path: string): Promise<StoredMedia> {
    const { size } = await stat(path);
    const facts = await this.read(path, size);
    const sha256 = await digest(path);
    await mkdir(this.folder, { recursive: true });
    await this.knex.transaction(async (transaction) => {
      // The row first: while it is held, nobody takes the file away as one that is not used.
      await transaction('media')
        .insert({ sha256, bytes: size, facts: JSON.stringify(facts) })
        .onConflict('sha256')
        .merge({ facts: JSON.stringify(facts), imported_at: transaction.fn.now() });
      // New from now on, however long it lay uploaded: a sweep that does not see its row yet leaves what is new.
      const now = new Date();
      await utimes(path, now, now);
      await rename(path, this.place(sha256));
    });
    return { sha256, facts };
  }

  /** Takes a copy of a file into the store. */
  async adoptCopy(path: string): Promise<StoredMedia> {
    await mkdir(this.folder, { recursive: true });
    const copy = join(this.folder, `copy-${process.pid}-${randomUUID()}`);
    try {
      await copyFile(path, copy);
      return await this.adopt(copy);
    } finally {
      await rm(copy, { force: true });
    }
  }

  /**
   * Takes a stream into the store, if it is the file it is said to be.
   *
   * @throws HttpProblem 422 where its digest is another
   */
  async adoptStream(content: Readable, sha256: string): Promise<StoredMedia> {
    await mkdir(this.folder, { recursive: true });
    const copy = join(this.folder, `stream-${process.pid}-${randomUUID()}`);
    try {
      await pipeline(content, createWriteStream(copy));
      if ((await digest(copy)) !== sha256) {
        throw new HttpProblem(422, 'The archive is damaged.', {
          detail: `The media file ${sha256} doesn’t match its name.`,
        });
      }
      return await this.adopt(copy);
    } finally {
      await rm(copy, { force: true });
    }
  }

  // Nothing is stored that no project could hold.
  private async read(path: string, bytes: number): Promise<MediaFacts> {
    const outcome = await this.work.probe(path, bytes);
    if ('refused' in outcome) throw refused(outcome.refused);
    const checked = checkMediaFacts(outcome.facts);
    if (!checked.ok) throw refused(`The file is damaged: in its metadata, ${describeErrors(checked.errors)}.`);
    return checked.value;
  }

  private place(sha256: string): string {
    return join(this.folder, sha256);
  }
}

const refused = (detail: string): HttpProblem =>
  new HttpProblem(422, 'Hastig can’t use this file.', { type: problemTypes.refusedMedia, detail });

const isFile = (path: string): Promise<boolean> =>
  stat(path).then(
    (found) => found.isFile(),
    () => false,
  );

async function digest(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 2 ** 20 }), hash);
  return hash.digest('hex');
}
