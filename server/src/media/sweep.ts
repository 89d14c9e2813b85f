import { readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { derivedKey } from '@hastig/contract';
import type { Knex } from 'knex';
import type { Uploads } from './uploads';

const HOUR = 3_600_000;
/** How long what nobody uses is kept after it was brought in, in milliseconds: it may be on its way into a project. */
const KEPT = 24 * HOUR;
/** Milliseconds between two sweeps. */
const EVERY = 6 * HOUR;

// Whatever a project is, was, or can be taken back to. Any digest counts, wherever it stands: rather one file too many.
const USED = `
  select distinct digest[1] as sha256
  from (
    select document::text as state from snapshots
    union all select patch::text from revisions
  ) as states, regexp_matches(states.state, '[0-9a-f]{64}', 'g') as digest`;

interface SweepOptions {
  knex: Knex;
  uploads: Uploads;
  /** Folder of stored media. */
  media: string;
  /** Folder of what is derived from media, each file's in one of its own. */
  derived: string;
}

/**
 * Frees the room that nobody needs: media that no project uses in any of its states, what is derived from them, what a
 * crash left half made, and uploads that nobody went on with.
 */
export class Sweep {
  private timer: NodeJS.Timeout | undefined;
  private running: Promise<void> = Promise.resolve();

  constructor(private readonly options: SweepOptions) {}

  /** Sweeps now and from time to time. */
  start(): void {
    this.soon();
    this.timer = setInterval(() => this.soon(), EVERY).unref();
  }

  stop(): Promise<void> {
    clearInterval(this.timer);
    return this.running;
  }

  /** Sweeps in the background, one sweep after the other. A sweep that fails is told of in the log; the next may succeed. */
  soon(): void {
    this.running = this.running
      .then(() => this.sweep())
      .then(
        () => undefined,
        (error: unknown) => console.error('Unused media could not be deleted:', error),
      );
  }

  /**
   * @param now milliseconds since 1970
   * @returns digests of the media that were taken away
   */
  async sweep(now = Date.now()): Promise<string[]> {
    const before = new Date(now - KEPT);
    const gone = (await this.unused(this.options.knex, before)).length > 0 ? await this.takeAway(before) : [];
    await this.takeLeftovers(before);
    await this.takeOutdated();
    await this.options.uploads.sweep();
    return gone;
  }

  private async unused(knex: Knex, before: Date): Promise<string[]> {
    const rows = await knex<{ sha256: string }>('media')
      .select('sha256')
      .where('imported_at', '<', before)
      .whereRaw(`sha256 not in (${USED})`);
    return rows.map(({ sha256 }) => sha256);
  }

  private async takeAway(before: Date): Promise<string[]> {
    const { knex, media, derived } = this.options;
    const aside: string[] = [];
    try {
      await knex.transaction(async (transaction) => {
        // No project comes to use a file between the look and its end.
        await transaction.raw('lock table projects in share row exclusive mode');
        const unused = await this.unused(transaction, before);
        await transaction('uploads').whereIn('sha256', unused).delete();
        const rows = (await transaction('media')
          .whereIn('sha256', unused)
          .where('imported_at', '<', before)
          .delete()
          .returning('sha256')) as { sha256: string }[];
        for (const { sha256 } of rows) {
          // Aside first: whoever brings the same file in meanwhile waits for this to end and then finds its place free.
          await moved(join(media, sha256), join(media, asideName(sha256)));
          aside.push(sha256);
        }
      });
    } catch (error) {
      for (const sha256 of aside) await moved(join(media, asideName(sha256)), join(media, sha256));
      throw error;
    }
    for (const sha256 of aside) {
      await rm(join(media, asideName(sha256)), { force: true });
      await rm(join(derived, sha256), { recursive: true, force: true });
    }
    return aside;
  }

  // What another version of the program derived, and this one makes anew.
  private async takeOutdated(): Promise<void> {
    const { derived } = this.options;
    for (const sha256 of await readdir(derived).catch(() => [] as string[])) {
      for (const name of await readdir(join(derived, sha256)).catch(() => [] as string[])) {
        if (!derivedKey(name)) await rm(join(derived, sha256, name), { recursive: true, force: true });
      }
    }
  }

  // Files without a row: copies that were being made, files set aside, files whose row never came to be.
  private async takeLeftovers(before: Date): Promise<void> {
    const { knex, media, derived } = this.options;
    const known = new Set((await knex<{ sha256: string }>('media').select('sha256')).map(({ sha256 }) => sha256));
    for (const folder of [media, derived]) {
      for (const name of await readdir(folder).catch(() => [] as string[])) {
        if (known.has(name)) continue;
        const path = join(folder, name);
        const changed = await stat(path).then(
          ({ mtime }) => mtime,
          () => undefined,
        );
        if (changed && changed < before) await rm(path, { recursive: true, force: true });
      }
    }
  }
}

const asideName = (sha256: string): string => `unused-${sha256}`;

async function moved(from: string, to: string): Promise<void> {
  await rename(from, to).catch((error: NodeJS.ErrnoException) => {
    // Someone else took it away: so it is gone all the same.
    if (error.code !== 'ENOENT') throw error;
  });
}
