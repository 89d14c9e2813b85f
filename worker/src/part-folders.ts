import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

const START = 'part-';

/** A folder for what is made of a part, which tells whose it is. */
export const partFolder = (folder: string): Promise<string> => mkdtemp(join(folder, `${START}${process.pid}-`));

/** Takes away what workers left that were killed: another that shares the folder may be at work in its own. */
export async function tidyPartFolders(folder: string): Promise<void> {
  for (const name of await readdir(folder)) {
    if (!name.startsWith(START)) continue;
    const [, owner] = name.split('-');
    if (!isRunning(Number(owner))) await rm(join(folder, name), { recursive: true, force: true });
  }
}

function isRunning(pid: number): boolean {
  if (!Number.isSafeInteger(pid) || pid <= 0) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Somebody else's.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
