import { readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';

interface Entry {
  bytes: number;
  /** Milliseconds since 1970. */
  used: number;
}

/**
 * Room for what is derived: where a piece would make it more than it may be, what was not used for longest goes, whole things only.
 * What is there is found on the disk once, and counted from then on; when something was used is its folder's time, so that it outlives
 * the server.
 */
export class DerivedQuota {
  private readonly entries = new Map<string, Entry>();
  private bytes = 0;
  private readonly counted: Promise<void>;
  private turn: Promise<unknown> = Promise.resolve();

  /**
   * @param folder in it a folder for each file, in that one for each thing
   * @param most bytes of all of it
   * @param ready is kept when the folder is as it shall be
   */
  constructor(
    private readonly folder: string,
    readonly most: number,
    ready: Promise<void>,
  ) {
    this.counted = ready.then(() => this.count());
  }

  /**
   * Makes room for a piece that is about to take its place, and counts it.
   *
   * @param thing folder under this one to which it belongs, which stays
   * @param bytes by which there will be more; less than 0 where it takes the place of a larger one
   * @returns whether there is room
   */
  take(thing: string, bytes: number): Promise<boolean> {
    const turn = this.turn.then(async () => {
      await this.counted;
      if (bytes + (this.entries.get(thing)?.bytes ?? 0) > this.most) return false;
      const oldest = [...this.entries].filter(([name]) => name !== thing).sort(([, a], [, b]) => a.used - b.used);
      for (const [name] of oldest) {
        if (this.bytes + bytes <= this.most) break;
        await rm(join(this.folder, name), { recursive: true, force: true });
        this.forget(name);
      }
      if (this.bytes + bytes > this.most) return false;
      this.add(thing, bytes);
      return true;
    });
    this.turn = turn.catch(() => undefined);
    return turn;
  }

  /** Takes back what was counted and did not come to be, or is gone. */
  give(thing: string, bytes: number): void {
    this.add(thing, -bytes);
  }

  /** Says that something is of use. */
  async use(thing: string): Promise<void> {
    const entry = this.entries.get(thing);
    const now = Date.now();
    // Once a minute is enough to tell what was used last.
    if (!entry || now - entry.used < 60_000) return;
    entry.used = now;
    await utimes(join(this.folder, thing), new Date(now), new Date(now)).catch(() => undefined);
  }

  /** Says that something is gone, or everything of a file. */
  forget(thing: string): void {
    for (const [name, { bytes }] of this.entries)
      if (name === thing || name.startsWith(`${thing}/`)) {
        this.bytes -= bytes;
        this.entries.delete(name);
      }
  }

  private add(thing: string, bytes: number): void {
    const entry = this.entries.get(thing) ?? { bytes: 0, used: Date.now() };
    this.entries.set(thing, { bytes: entry.bytes + bytes, used: Date.now() });
    this.bytes += bytes;
  }

  private async count(): Promise<void> {
    for (const sha256 of await readdir(this.folder).catch(() => [] as string[]))
      for (const name of await readdir(join(this.folder, sha256)).catch(() => [] as string[])) {
        const thing = join(this.folder, sha256, name);
        const [pieces, own] = await Promise.all([readdir(thing).catch(() => []), stat(thing).catch(() => undefined)]);
        const sizes = await Promise.all(
          pieces.map((piece) =>
            stat(join(thing, piece)).then(
              ({ size }) => size,
              () => 0,
            ),
          ),
        );
        const bytes = sizes.reduce((sum, size) => sum + size, 0);
        this.entries.set(`${sha256}/${name}`, { bytes, used: own?.mtimeMs ?? 0 });
        this.bytes += bytes;
      }
  }
}
