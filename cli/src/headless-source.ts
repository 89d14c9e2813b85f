import { stat } from 'node:fs/promises';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import { CommandFailed } from './fail';

/** Has a page in headless Chromium do something with a file, which it reads in ranges from the address it is given. */
export async function withSourcePage<T>(
  path: string,
  entry: string,
  work: (page: HeadlessPage['page'], url: string, bytes: number) => Promise<T>,
): Promise<T> {
  const source = resolve(path);
  const { size } = await stat(source).catch(() => {
    throw new CommandFailed(`${path}: file not found`);
  });
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL(entry, import.meta.url)),
    routes: (app) => void app.get('/source', (_request, response) => response.sendFile(source, { dotfiles: 'allow' })),
  }).catch((error: Error) => {
    throw new CommandFailed(error.message);
  });
  try {
    return await work(headless.page, `${headless.address}/source`, size);
  } catch (error) {
    const reason = (error as Error).message
      .replace(/^page\.evaluate: (\w*Error: |RefusedMedia: )?/, '')
      .split('\n')[0]!;
    throw new CommandFailed(`${path}: ${reason}`);
  } finally {
    await headless.close();
  }
}
