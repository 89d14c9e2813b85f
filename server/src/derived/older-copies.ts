import { mkdir, readdir, rename, rmdir } from 'node:fs/promises';
import { join } from 'node:path';
import { derivedName } from '@hastig/contract';

/**
 * Puts proxies where they are looked for: an older version kept each in a folder of its own beside the media.
 *
 * @param from its folder of copies, which may not be there
 * @param to the folder of what is derived
 */
export async function adoptOlderCopies(from: string, to: string): Promise<void> {
  const copies = await readdir(from).catch(() => [] as string[]);
  for (const sha256 of copies) {
    await mkdir(join(to, sha256), { recursive: true });
    // One that was made anew since stays; the older one is swept with its file.
    await rename(join(from, sha256), join(to, sha256, derivedName({ kind: 'copy', params: '' }))).catch(
      () => undefined,
    );
  }
  await rmdir(from).catch(() => undefined);
}
