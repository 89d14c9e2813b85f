import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { problemTypes, type StoredMedia } from '@hastig/contract';
import type { RequestHandler } from 'express';
import type { Knex } from 'knex';
import { HttpProblem, notFound, willPass } from '../http/problem';
import type { MediaStore } from './store';
import { UploadProtocol } from './upload-protocol';
import { UploadStore } from './upload-store';

/** Milliseconds that an upload nobody finishes is kept: two weeks. */
const KEPT = 14 * 24 * 3_600_000;

const idPattern = /^[0-9a-f]{32}$/;

interface UploadsOptions {
  knex: Knex;
  media: MediaStore;
  folder: string;
  /** Largest file, in bytes. */
  maxBytes: number;
}

/** Resumable uploads: parts in a folder of their own until a file is whole, then into the media store. */
export class Uploads {
  private readonly store: UploadStore;
  private readonly protocol: UploadProtocol;
  private readonly turns = new Map<string, Promise<unknown>>();

  constructor(private readonly options: UploadsOptions) {
    mkdirSync(options.folder, { recursive: true });
    this.store = new UploadStore({ directory: options.folder, expirationPeriodInMilliseconds: KEPT });
    this.protocol = new UploadProtocol(this.store, options.maxBytes);
  }

  /** Speaks the upload protocol. */
  readonly handle: RequestHandler = (request, response) => {
    const { id } = request.params;
    if (id !== undefined && !(typeof id === 'string' && idPattern.test(id))) throw notFound('upload');
    return this.protocol.handle(request, response);
  };

  /**
   * Turns a finished upload into stored media. Asked again, for instance after a lost answer, it gives the same.
   *
   * @throws HttpProblem 404; 409 while parts are missing; 422 with the reason for a file that cannot be used (it is
   *   taken away)
   */
  finish(id: string): Promise<StoredMedia> {
    return this.inTurn(id, () => this.adopt(id));
  }

  /** Takes away uploads that nobody finished in two weeks. */
  async sweep(): Promise<void> {
    await this.store.deleteExpired();
  }

  /**
   * Uses a finished upload once and takes it away, unless what went wrong will pass: then it can be tried again.
   *
   * @throws HttpProblem 404; 409 while parts are missing; what `use` throws
   */
  withFile<T>(id: string, use: (path: string) => Promise<T>): Promise<T> {
    return this.inTurn(id, async () => {
      const path = await this.complete(id);
      try {
        const result = await use(path);
        await this.store.drop(id);
        return result;
      } catch (error) {
        if (!willPass(error)) await this.store.drop(id);
        throw error;
      }
    });
  }

  // Whoever finishes an upload takes its file: of two at once the second finds what the first left.
  private async inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    if (!idPattern.test(id)) throw notFound('upload');
    const before = this.turns.get(id) ?? Promise.resolve();
    const turn = before.then(work, work);
    this.turns.set(id, turn);
    try {
      return await turn;
    } finally {
      if (this.turns.get(id) === turn) this.turns.delete(id);
    }
  }

  // Path of an upload whose every byte is here.
  private async complete(id: string): Promise<string> {
    const upload = await this.store.getUpload(id).catch(() => {
      throw notFound('upload');
    });
    if (upload.size === undefined || upload.offset < upload.size) {
      throw new HttpProblem(409, 'The upload isn’t complete yet.', {
        detail: `${upload.offset} of ${upload.size} bytes have arrived.`,
      });
    }
    return join(this.options.folder, id);
  }

  private async adopt(id: string): Promise<StoredMedia> {
    const { knex, media } = this.options;
    const done = await knex<{ id: string; sha256: string }>('uploads').where({ id }).first();
    if (done && (await media.again(done.sha256))) return { sha256: done.sha256, facts: await media.facts(done.sha256) };
    const path = await this.complete(id);
    try {
      const stored = await media.adopt(path);
      // Another server at the same database may have been as quick.
      await knex('uploads').insert({ id, sha256: stored.sha256 }).onConflict('id').ignore();
      await this.store.drop(id);
      return stored;
    } catch (error) {
      if (error instanceof HttpProblem && error.more.type === problemTypes.refusedMedia) await this.store.drop(id);
      throw error;
    }
  }
}
