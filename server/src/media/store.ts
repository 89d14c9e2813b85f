import { randomUUID } from 'node:crypto';
import { copyFile, link, mkdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { checkMediaFacts, describeErrors, problemTypes, type MediaFacts, type StoredMedia } from '@hastig/contract';
import type { Knex } from 'knex';
import { digest } from '../files/digest';
import { settle, writeFileFrom } from '../files/streams';
import { HttpProblem, notFound } from '../http/problem';
import type { WorkPool } from '../work/pool';

interface MediaRow {
  sha256: string;
  facts: MediaFacts;
  /** A whole number; the database gives it as text. */
  bytes: string;
  /** Of what was made of one that browsers don't decode. */
  converted_sha256: string | null;
  converted_bytes: string | null;
}

/** The ending of what was made of a file, beside it. */
export const CONVERTED = '.converted';

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

  /** Digests of all files, in order. */
  async list(): Promise<string[]> {
    return this.knex<MediaRow>('media').orderBy('sha256').pluck('sha256');
  }

  /** Path of a stored file. Throws 404 for anything that is not the digest of one. */
  async path(sha256: string): Promise<string> {
    await this.facts(sha256);
    const path = await this.find(sha256);
    if (!path) throw notFound('media');
    return path;
  }

  /** Path of a stored file, if it is there, whole: what a row says of it is not enough. */
  async find(sha256: string): Promise<string | undefined> {
    return (await this.whole(sha256, this.knex))?.path;
  }

  private async whole(sha256: string, within: Knex): Promise<{ path: string; row: MediaRow } | undefined> {
    const row = await within<MediaRow>('media').where({ sha256 }).first();
    const path = this.place(sha256);
    if (!row || (await bytesOf(path)) !== Number(row.bytes)) return undefined;
    const converted = row.converted_bytes === null || (await bytesOf(path + CONVERTED)) === Number(row.converted_bytes);
    return converted ? { path, row } : undefined;
  }

  /**
   * What is read of a stored file, and its digest: what was made of it, where browsers don't decode itself.
   *
   * @param within a transaction, which may not wait for a second connection
   * @returns undefined where it is not there, whole
   */
  async readable(sha256: string, within: Knex = this.knex): Promise<{ path: string; digest: string } | undefined> {
    const found = await this.whole(sha256, within);
    if (!found) return undefined;
    const { path, row } = found;
    const { converted_sha256: digest } = row;
    return digest === null ? { path, digest: sha256 } : { path: path + CONVERTED, digest };
  }

  /** What was made of a stored file; undefined where it is read itself. */
  async converted(sha256: string): Promise<string | undefined> {
    const found = await this.readable(sha256);
    return found && found.digest !== sha256 ? found.path : undefined;
  }

  /**
   * Takes a file into the store that browsers don't decode, with what was made of it, which is what is read. Both stay where they were.
   *
   * @param from what it is coded as, in words
   * @throws HttpProblem 422 where what was made can't be read
   */
  async adoptConverted(path: string, made: string, from: string): Promise<StoredMedia> {
    const [{ size: bytes }, { size: madeBytes }] = [await stat(path), await stat(made)];
    const facts: MediaFacts = { ...(await this.read(made, madeBytes)), converted: { from, bytes } };
    const [sha256, madeSha256] = [await digest(path), await digest(made)];
    await mkdir(this.folder, { recursive: true });
    for (const file of [path, made]) await settle(file);
    const row = {
      facts: JSON.stringify(facts),
      converted_sha256: madeSha256,
      converted_bytes: String(madeBytes),
    };
    await this.knex.transaction(async (transaction) => {
      await transaction('media')
        .insert({ sha256, bytes, ...row })
        .onConflict('sha256')
        .merge({ ...row, imported_at: transaction.fn.now() });
      const now = new Date();
      for (const file of [path, made]) await utimes(file, now, now);
      await this.putInPlace(path, sha256);
      await this.putInPlace(made, sha256 + CONVERTED);
    });
    return { sha256, facts };
  }

  /** Bytes of those of some files that are there, whole. */
  async sizes(digests: readonly string[]): Promise<Map<string, number>> {
    const rows = await this.knex<MediaRow>('media').whereIn('sha256', digests).select('sha256', 'bytes');
    const sizes = new Map<string, number>();
    for (const { sha256, bytes } of rows) {
      const found = await bytesOf(this.place(sha256));
      if (found === Number(bytes)) sizes.set(sha256, found);
    }
    return sizes;
  }

  /** Brings a stored file in again, so that it counts as new. @returns whether it is stored, and whole */
  async again(sha256: string): Promise<boolean> {
    const known = await this.knex('media').where({ sha256 }).update({ imported_at: this.knex.fn.now() });
    return known > 0 && (await this.find(sha256)) !== undefined;
  }

  async facts(sha256: string): Promise<MediaFacts> {
    if (!sha256Pattern.test(sha256)) throw notFound('media');
    const row = await this.knex<MediaRow>('media').where({ sha256 }).first();
    if (!row) throw notFound('media');
    return row.facts;
  }

  /**
   * Takes a file into the store. The file stays where it was, so that whoever brought it can try again when this fails half way;
   * on a file system that has links it takes no room of its own.
   *
   * @throws HttpProblem 422 with the reason for a file that cannot be used
   */
  async adopt(path: string): Promise<StoredMedia> {
    const { size } = await stat(path);
    const facts = await this.read(path, size);
    const sha256 = await digest(path);
    await mkdir(this.folder, { recursive: true });
    await settle(path);
    await this.knex.transaction(async (transaction) => {
      // The row first: while it is held, nobody takes the file away as one that is not used.
      await transaction('media')
        .insert({ sha256, bytes: size, facts: JSON.stringify(facts) })
        .onConflict('sha256')
        .merge({ facts: JSON.stringify(facts), imported_at: transaction.fn.now() });
      // New from now on, however long it lay uploaded: a sweep that does not see its row yet leaves what is new.
      const now = new Date();
      await utimes(path, now, now);
      await this.putInPlace(path, sha256);
    });
    return { sha256, facts };
  }

  /** Takes a copy of a file into the store. */
  async adoptCopy(path: string): Promise<StoredMedia> {
    await mkdir(this.folder, { recursive: true });
    const copy = join(this.folder, `copy-${randomUUID()}`);
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
   * @param begin makes the stream
   * @throws HttpProblem 422 where its digest is another; what the stream fails with
   */
  async adoptStream(begin: () => Promise<Readable>, sha256: string): Promise<StoredMedia> {
    await mkdir(this.folder, { recursive: true });
    const copy = join(this.folder, `stream-${randomUUID()}`);
    try {
      await writeFileFrom(copy, begin);
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

  /** Writes a stream beside the files, not as one of them. @returns its path; whoever asked takes it away */
  async hold(begin: () => Promise<Readable>): Promise<string> {
    await mkdir(this.folder, { recursive: true });
    const path = join(this.folder, `stream-${randomUUID()}`);
    try {
      await writeFileFrom(path, begin);
      return path;
    } catch (error) {
      await rm(path, { force: true });
      throw error;
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

  // Under its name it is whole at every moment: a damaged one of before is replaced in one step.
  private async putInPlace(path: string, name: string): Promise<void> {
    const beside = join(this.folder, `whole-${randomUUID()}`);
    try {
      await link(path, beside).catch(async (error: NodeJS.ErrnoException) => {
        if (!['EPERM', 'EXDEV', 'ENOTSUP', 'ENOSYS', 'EMLINK'].includes(error.code ?? '')) throw error;
        await copyFile(path, beside);
        await settle(beside);
      });
      await rename(beside, this.place(name));
      await settle(this.folder, true);
    } finally {
      await rm(beside, { force: true });
    }
  }

  private place(name: string): string {
    return join(this.folder, name);
  }
}

const refused = (detail: string): HttpProblem =>
  new HttpProblem(422, 'Hastig can’t use this file.', { type: problemTypes.refusedMedia, detail });

const bytesOf = (path: string): Promise<number | undefined> =>
  stat(path).then(
    (found) => (found.isFile() ? found.size : undefined),
    () => undefined,
  );
