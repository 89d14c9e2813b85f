import { mkdir, readdir, rename, rmdir } from 'node:fs/promises';
import { join } from 'node:path';
import { derivedName } from '@hastig/contract';

const PROXY = derivedName({ kind: 'proxy', params: '' });

/**
 * Puts proxies where they are looked for: older versions kept each in a folder of its own beside the media, or called it a copy.
 *
 * @param from its folder of copies, which may not be there
 * @param to the folder of what is derived
 */
export async function adoptOlderProxies(from: string, to: string): Promise<void> {
  const copies = await readdir(from).catch(() => [] as string[]);
  for (const sha256 of copies) {
    await mkdir(join(to, sha256), { recursive: true });
    // One that was made anew since stays; the older one is swept with its file.
    await rename(join(from, sha256), join(to, sha256, PROXY)).catch(() => undefined);
  }
  await rmdir(from).catch(() => undefined);
  // A later one had them here, by another name.
  for (const sha256 of await readdir(to).catch(() => [] as string[]))
    await rename(join(to, sha256, 'copy-1'), join(to, sha256, PROXY)).catch(() => undefined);
}
