import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { FileStore } from '@tus/file-store';
import type { Upload } from '@tus/server';
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
    const file = createWriteStream(join(this.directory, id), { flags: 'r+', start: offset });
    try {
      await pipeline(content, file);
    } catch (error) {
      if (isFull(error)) await this.drop(id);
      throw error;
    }
    return offset + file.bytesWritten;
  }

  /** Takes an upload away, whatever there is of it. */
  async drop(id: string): Promise<void> {
    for (const name of [id, `${id}.json`]) await rm(join(this.directory, name), { force: true }).catch(() => undefined);
  }
}
