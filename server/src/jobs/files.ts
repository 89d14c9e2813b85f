import { copyFile, link, mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { digest } from '../files/digest';
import { settle, writeFileFrom } from '../files/streams';
import { HttpProblem } from '../http/problem';

/** The ending of what is not whole yet. */
const PART = '.part';
const RESULT = 'result';
const ORIGINAL = 'original';

/** Files of jobs, each job's in a folder of its own: what is being sent, parts that are whole, and what came of them. */
export class JobFiles {
  constructor(private readonly folder: string) {}

  private at(jobId: string, name: string): string {
    return join(this.folder, jobId, name);
  }

  /** A part that is whole. */
  part(jobId: string, partId: string): string {
    return this.at(jobId, partId);
  }

  /** What came of a job. */
  result(jobId: string): string {
    return this.at(jobId, RESULT);
  }

  /** What a job is about, where that is no footage yet. */
  original(jobId: string): string {
    return this.at(jobId, ORIGINAL);
  }

  /** Takes a file as what a job is about. @returns its digest */
  async takeOriginal(jobId: string, path: string): Promise<string> {
    await mkdir(join(this.folder, jobId), { recursive: true });
    await link(path, this.original(jobId)).catch(async (error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') throw error;
      await copyFile(path, this.original(jobId));
    });
    return digest(this.original(jobId));
  }

  /** Writes what was sent, from a byte on; what lies behind the end would be a hole, and is refused. */
  async write(jobId: string, partId: string, lease: string, position: number, content: Readable): Promise<void> {
    await mkdir(join(this.folder, jobId), { recursive: true });
    const path = this.at(jobId, `${partId}.${lease}${PART}`);
    const bytes = await sizeOf(path);
    if (position > (bytes ?? 0))
      throw new HttpProblem(409, 'Something before it is missing.', { detail: `${bytes ?? 0} bytes are here.` });
    if (bytes === undefined) await writeFile(path, '');
    await writeFileFrom(path, content, { start: position });
  }

  /**
   * Gives what was sent its name, if it is what was meant to be sent. What has it already is left: the answer was lost.
   *
   * @throws HttpProblem 409 where it is not
   */
  async keep(jobId: string, partId: string, lease: string, bytes: number, sha256: string): Promise<void> {
    const [sent, kept] = [this.at(jobId, `${partId}.${lease}${PART}`), this.part(jobId, partId)];
    const there = async (path: string): Promise<boolean> => (await sizeOf(path)) === bytes;
    // The last one of a job may have become what came of it already.
    if ((await sizeOf(sent)) === undefined && ((await there(kept)) || (await there(this.result(jobId))))) return;
    if ((await sizeOf(sent)) !== bytes || (await digest(sent)) !== sha256) {
      await rm(sent, { force: true });
      throw new HttpProblem(409, 'What arrived isn’t what was sent.');
    }
    await settle(sent);
    await rename(sent, kept);
    await settle(join(this.folder, jobId), true);
  }

  /** Makes a part what came of the job. @returns its bytes */
  async finish(jobId: string, partId: string): Promise<number> {
    const [from, to] = [this.part(jobId, partId), this.result(jobId)];
    if ((await sizeOf(from)) !== undefined) await rename(from, to);
    return (await sizeOf(to))!;
  }

  /** Takes away all but what came of a job. */
  async tidy(jobId: string): Promise<void> {
    for (const name of await namesIn(join(this.folder, jobId)))
      if (name !== RESULT && name !== ORIGINAL) await rm(this.at(jobId, name), { force: true });
  }

  /** Takes away what was sent of a part and is not whole. */
  async dropSent(jobId: string, partId: string): Promise<void> {
    for (const name of await namesIn(join(this.folder, jobId)))
      if (name.startsWith(`${partId}.`)) await rm(this.at(jobId, name), { force: true });
  }

  async remove(jobId: string): Promise<void> {
    await rm(join(this.folder, jobId), { recursive: true, force: true });
  }

  /** Ids of jobs whose folders nobody has touched since: a job that is being added has one before it is known. */
  async jobsBefore(time: number): Promise<string[]> {
    const old: string[] = [];
    for (const id of await namesIn(this.folder)) {
      const found = await stat(join(this.folder, id)).catch(() => undefined);
      if (found && found.mtimeMs < time) old.push(id);
    }
    return old;
  }
}

const sizeOf = (path: string): Promise<number | undefined> =>
  stat(path).then(
    ({ size }) => size,
    () => undefined,
  );

const namesIn = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
