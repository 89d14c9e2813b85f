import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { FileStore } from '@tus/file-store';
import type { Upload } from '@tus/server';
import { writeFileFrom } from '../files/streams';
import { problemOf } from '../http/problem';

const isFull = (error: unknown): boolean => error instanceof Error && problemOf(error).status === 507;

/** The protocol's store of files, which tells a full disk from other faults and leaves nothing of an upload it stopped. */
export class UploadStore extends FileStore {
  override async create(file: Upload): Promise<Upload> {
    try {
      return await super.create(file);
    } catch (error) {
      await this.drop(file.id);
      throw error;
    }
  }

  override async write(content: Readable, id: string, offset: number): Promise<number> {
    try {
      return offset + (await writeFileFrom(join(this.directory, id), content, { start: offset }));
    } catch (error) {
      if (isFull(error)) await this.drop(id);
      throw error;
    }
  }

  /** Takes an upload away, whatever there is of it. */
  async drop(id: string): Promise<void> {
    for (const name of [id, `${id}.json`]) await rm(join(this.directory, name), { force: true }).catch(() => undefined);
  }
}
