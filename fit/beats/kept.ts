import { existsSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';

/** Writes a file whole or not at all: what was ended half way is made again. */
export async function writeWhole(file: string, content: string | Uint8Array): Promise<void> {
  await writeFile(`${file}.part`, content);
  await rename(`${file}.part`, file);
}

/** What a file holds as JSON; made and written there where it is not yet. */
export async function kept<T>(file: string, make: () => Promise<T>): Promise<T> {
  if (existsSync(file)) return JSON.parse(await readFile(file, 'utf8')) as T;
  const made = await make();
  await writeWhole(file, JSON.stringify(made));
  return made;
}
