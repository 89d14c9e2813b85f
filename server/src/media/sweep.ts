import { readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { derivedKey } from '@hastig/contract';
import type { Knex } from 'knex';
import { PART } from '../derived/store';
import type { ProjectStore } from '../projects/store';
import { CONVERTED } from './store';
import type { Uploads } from './uploads';

const HOUR = 3_600_000;
/** How long what nobody uses is kept after it was brought in, in milliseconds: it may be on its way into a project. */
const KEPT = 24 * HOUR;
/** Milliseconds between two sweeps. */
const EVERY = 6 * HOUR;

/** Files that are taken away in one step. */
const STEP = 20;

interface SweepOptions {
  knex: Knex;
  uploads: Uploads;
  projects: ProjectStore;
  /** Folder of stored media. */
  media: string;
  /** Folder of what is derived from media, each file's in one of its own. */
  derived: string;
  /** Called when a file and what is derived from it are gone. */
  onGone(sha256: string): void;
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
    await this.options.projects.thin(now);
    const gone: string[] = [];
    const unused = await this.unused(this.options.knex, before);
    for (let from = 0; from < unused.length; from += STEP)
      gone.push(...(await this.takeAway(unused.slice(from, from + STEP), before)));
    await this.takeLeftovers(before);
    await this.takeOutdated(before);
    await this.options.uploads.sweep();
    return gone;
  }

  // What no project is, was, or can be taken back to has in it.
  private async unused(knex: Knex, before: Date, among?: readonly string[]): Promise<string[]> {
    const query = knex('media')
      .where('imported_at', '<', before)
      .whereRaw('not exists (select from uses where uses.sha256 = media.sha256)')
      // What is still to be rendered may be of a project that was removed.
      .whereRaw(
        "not exists (select from jobs where media.sha256 = any(jobs.media) and jobs.state in ('waiting', 'running', 'paused'))",
      )
      .orderBy('sha256');
    if (among) void query.whereIn('sha256', among);
    const rows = (await query.select('sha256')) as { sha256: string }[];
    return rows.map(({ sha256 }) => sha256);
  }

  private async takeAway(among: readonly string[], before: Date): Promise<string[]> {
    const { knex, media, derived } = this.options;
    const aside: string[] = [];
    try {
      await knex.transaction(async (transaction) => {
        // A project that comes to use one of them holds its row: this waits for it, and looks again.
        await transaction('media').whereIn('sha256', among).orderBy('sha256').forUpdate().select('sha256');
        const unused = await this.unused(transaction, before, among);
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
      await rm(join(media, sha256 + CONVERTED), { force: true });
      await rm(join(derived, sha256), { recursive: true, force: true });
      this.options.onGone(sha256);
    }
    return aside;
  }

  // What another version of the program derived, and this one makes anew; and pieces that came half.
  private async takeOutdated(before: Date): Promise<void> {
    const { derived } = this.options;
    for (const sha256 of await readdir(derived).catch(() => [] as string[])) {
      for (const name of await readdir(join(derived, sha256)).catch(() => [] as string[])) {
        const folder = join(derived, sha256, name);
        if (!derivedKey(name)) await rm(folder, { recursive: true, force: true });
        else await takeParts(folder, before);
      }
    }
  }

  // Files without a row: copies that were being made, files set aside, files whose row never came to be.
  private async takeLeftovers(before: Date): Promise<void> {
    const { knex, media, derived } = this.options;
    const known = new Set((await knex<{ sha256: string }>('media').select('sha256')).map(({ sha256 }) => sha256));
    for (const folder of [media, derived]) {
      for (const name of await readdir(folder).catch(() => [] as string[])) {
        if (known.has(name.replace(CONVERTED, ''))) continue;
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

async function takeParts(folder: string, before: Date): Promise<void> {
  for (const name of await readdir(folder).catch(() => [] as string[])) {
    if (!name.endsWith(PART)) continue;
    const changed = await stat(join(folder, name)).catch(() => undefined);
    if (changed && changed.mtime < before) await rm(join(folder, name), { force: true });
  }
}

const asideName = (sha256: string): string => `unused-${sha256}`;

async function moved(from: string, to: string): Promise<void> {
  await rename(from, to).catch((error: NodeJS.ErrnoException) => {
    // Someone else took it away: so it is gone all the same.
    if (error.code !== 'ENOENT') throw error;
  });
}
