import { spawnSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoMediaFolder } from '@hastig/demo/media';
import { startThrowaway } from '../scripts/throwaway';
import { Report } from './report';
import { upload } from './upload';

/** Kilobytes of the disk, and of the files that are brought in until it is full. */
const DISK = 24_000;
const FILE = 4000;

/** A clip made larger by an empty box at its end, as ISO/IEC 14496-12 allows ("free"); each is another file. */
function clipOf(content: Buffer, number: number): Buffer {
  const box = Buffer.alloc(FILE * 1000, number);
  box.writeUInt32BE(box.length, 0);
  box.write('free', 4, 'latin1');
  return Buffer.concat([content, box]);
}

/** Whether a count comes down to what it was: what is left over is taken away after the answer. */
async function comesTo(count: () => Promise<number>, wanted: number): Promise<boolean> {
  for (let look = 0; look < 20; look++) {
    if ((await count()) <= wanted) return true;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return false;
}

/**
 * Fills a small disk with media. What no longer fits is refused as such and leaves nothing; what was there stays, and there is
 * room again once something is taken away.
 *
 * @returns undefined where no small disk can be had: only root may mount one
 */
export async function fuzzDisk(count: number): Promise<Report | undefined> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}k`, 'tmpfs', folder]).status === 0;
  if (!mounted) {
    await rm(folder, { recursive: true, force: true });
    return undefined;
  }
  const app = await startThrowaway('disk', folder);
  const report = new Report('a full disk');
  try {
    const content = await readFile(join(demoMediaFolder, 'drop.mp4'));
    const stored: string[] = [];
    const files = async (): Promise<number> => (await readdir(folder, { recursive: true })).length;
    for (let n = 1; n <= count; n++) {
      const before = await files();
      const started = performance.now();
      const { answer } = await upload(app.address, clipOf(content, n));
      const body = (await answer.json()) as { sha256?: string; type?: string; detail?: string };
      report.tried(String(answer.status), performance.now() - started);
      if (answer.ok) stored.push(body.sha256!);
      else if (answer.status !== 507) report.fault(`${answer.status} on a full disk: ${JSON.stringify(body)}`);
      else if (!/no space left/.test(body.detail ?? ''))
        report.fault(`a reason that says nothing of room: ${body.detail}`);
      else if (!(await comesTo(files, before))) report.fault(`what was refused left ${(await files()) - before} files`);
    }
    if (stored.length === 0 || stored.length === count) report.fault(`${stored.length} of ${count} files found room`);
    for (const sha256 of stored) {
      const { status } = await fetch(`${app.address}/api/media/${sha256}`, { headers: { Range: 'bytes=0-99' } });
      if (status !== 206) report.fault(`a stored file answers ${status}`);
    }
  } finally {
    await app.stop();
    spawnSync('umount', [folder]);
    await rm(folder, { recursive: true, force: true });
  }
  return report;
}
