import { mkdir, readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import type { TakenPart } from '@hastig/contract';
import { CONVERTED } from '@hastig/server';
import type { Connection } from './connection';

/** Bytes of media that are kept for the next time. */
const MOST = 20 * 2 ** 30;

/** Media that were fetched, by their digests; those that were not used for longest go first. */
export class MediaCache {
  /**
   * @param folder where they are kept
   * @param beside the folder of a server on this machine, whose files are read where they are
   */
  constructor(
    private readonly folder: string,
    private readonly beside?: string,
  ) {}

  /**
   * Paths of what a part needs, by their digests.
   *
   * @param own the part's own folder, which goes with it: what is converted is needed once, and is nobody's footage yet
   */
  async get(connection: Connection, part: TakenPart, own: string): Promise<Map<string, string>> {
    await mkdir(this.folder, { recursive: true });
    const into = part.task.do === 'convert' ? own : this.folder;
    const found = new Map<string, string>();
    for (const needed of part.media) found.set(needed.sha256, await this.one(connection, part, needed, into));
    await this.tidy(new Set(part.media.map(({ digest }) => digest)));
    return found;
  }

  private async one(
    connection: Connection,
    part: TakenPart,
    { sha256, digest }: TakenPart['media'][number],
    into: string,
  ): Promise<string> {
    const beside = this.beside && join(this.beside, digest === sha256 ? sha256 : sha256 + CONVERTED);
    if (beside && (await isThere(beside))) return beside;
    const path = join(into, digest);
    if (!(await isThere(path))) await connection.fetchTo(part, `media/${sha256}`, path, digest);
    const now = new Date();
    await utimes(path, now, now);
    return path;
  }

  private async tidy(needed: ReadonlySet<string>): Promise<void> {
    const files = await Promise.all(
      (await readdir(this.folder)).map(async (name) => {
        // Another worker may share the folder, and have taken it away.
        const { size, mtimeMs } = await stat(join(this.folder, name)).catch(() => ({ size: 0, mtimeMs: 0 }));
        return { name, size, mtimeMs };
      }),
    );
    let bytes = files.reduce((sum, { size }) => sum + size, 0);
    for (const { name, size } of files.toSorted((a, b) => a.mtimeMs - b.mtimeMs)) {
      if (bytes <= MOST) return;
      if (needed.has(name)) continue;
      await rm(join(this.folder, name), { force: true });
      bytes -= size;
    }
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    (found) => found.isFile(),
    () => false,
  );
