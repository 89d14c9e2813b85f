import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { problemTypes, PROBLEM_MEDIA_TYPE, type StoredMedia } from '@hastig/contract';
import { FileStore } from '@tus/file-store';
import { Server as TusServer } from '@tus/server';
import type { RequestHandler } from 'express';
import type { Knex } from 'knex';
import { HttpProblem, notFound, problemOf } from '../http/problem';
import type { MediaStore } from './store';

/** Where uploads are made, by the tus resumable upload protocol 1.0. */
export const UPLOAD_PATH = '/api/uploads';

/** Milliseconds that an upload nobody finishes is kept: two weeks. */
const KEPT = 14 * 24 * 3_600_000;

const idPattern = /^[0-9a-f]{32}$/;

export interface UploadsOptions {
  knex: Knex;
  media: MediaStore;
  folder: string;
  /** Largest file, in bytes. */
  maxBytes: number;
}

/** Resumable uploads: parts in a folder of their own until a file is whole, then into the media store. */
export class Uploads {
  private readonly store: FileStore;
  private readonly tus: TusServer;
  private readonly adopting = new Map<string, Promise<StoredMedia>>();

  constructor(private readonly options: UploadsOptions) {
    mkdirSync(options.folder, { recursive: true });
    this.store = new FileStore({ directory: options.folder, expirationPeriodInMilliseconds: KEPT });
    this.tus = new TusServer({
      path: UPLOAD_PATH,
      datastore: this.store,
      maxSize: options.maxBytes,
      relativeLocation: true,
      onResponseError: (_request, error) => {
        if (!('code' in error) || error.code !== 'ENOSPC') return undefined;
        const problem = problemOf(error as unknown as Error);
        return {
          status_code: problem.status,
          body: JSON.stringify(problem.document),
          headers: { 'Content-Type': PROBLEM_MEDIA_TYPE },
        };
      },
    });
  }

  /** Speaks the upload protocol. */
  readonly handle: RequestHandler = (request, response) => this.tus.handle(request, response);

  /**
   * Turns a finished upload into stored media. Asked again, for instance after a lost answer, it gives the same.
   *
   * @throws HttpProblem 404; 409 while parts are missing; 422 with the reason for a file that is no video (it is
   *   taken away)
   */
  finish(id: string): Promise<StoredMedia> {
    if (!idPattern.test(id)) return Promise.reject(notFound('upload'));
    const running = this.adopting.get(id) ?? this.adopt(id).finally(() => this.adopting.delete(id));
    this.adopting.set(id, running);
    return running;
  }

  /** Takes away uploads that nobody finished in two weeks. */
  async sweep(): Promise<void> {
    await this.store.deleteExpired();
  }

  /**
   * Uses a finished upload once and takes it away, whatever came of it.
   *
   * @throws HttpProblem 404; 409 while parts are missing; what `use` throws
   */
  async withFile<T>(id: string, use: (path: string) => Promise<T>): Promise<T> {
    const path = await this.complete(id);
    try {
      return await use(path);
    } finally {
      await this.store.remove(id).catch(() => undefined);
    }
  }

  // Path of an upload whose every byte is here.
  private async complete(id: string): Promise<string> {
    if (!idPattern.test(id)) throw notFound('upload');
    const upload = await this.store.getUpload(id).catch(() => {
      throw notFound('upload');
    });
    if (upload.size === undefined || upload.offset < upload.size) {
      throw new HttpProblem(409, 'The upload is not complete yet.', {
        detail: `${upload.offset} of ${upload.size} bytes are here.`,
      });
    }
    return join(this.options.folder, id);
  }

  private async adopt(id: string): Promise<StoredMedia> {
    const { knex, media, folder } = this.options;
    const done = await knex<{ id: string; sha256: string }>('uploads').where({ id }).first();
    if (done) {
      await media.again(done.sha256);
      return { sha256: done.sha256, facts: await media.facts(done.sha256) };
    }
    const path = await this.complete(id);
    try {
      const stored = await media.adopt(path);
      await knex('uploads').insert({ id, sha256: stored.sha256 });
      await rm(join(folder, `${id}.json`), { force: true });
      return stored;
    } catch (error) {
      if (error instanceof HttpProblem && error.more.type === problemTypes.refusedMedia) await this.store.remove(id);
      throw error;
    }
  }
}
