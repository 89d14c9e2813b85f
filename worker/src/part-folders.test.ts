import { spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { partFolder, tidyPartFolders } from './part-folders';

it('what killed workers left is taken away, and what others work on is not', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-worker-'));
  try {
    const own = await partFolder(folder);
    const { pid } = spawnSync(process.execPath, ['-e', '']);
    for (const name of [`part-${pid}-abc`, 'part-xyz', 'media'])
      await mkdir(join(folder, name, 'inner'), { recursive: true });
    await tidyPartFolders(folder);
    expect((await readdir(folder)).sort()).toEqual(['media', basename(own)].sort());
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
