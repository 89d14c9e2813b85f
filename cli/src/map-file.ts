import { readFile } from 'node:fs/promises';
import { checkMapFile, describeErrors, type RetimeMap } from '@hastig/contract';
import { CommandFailed } from './fail';

/** Reads and checks a map file (`docs/formats.md`). Throws CommandFailed, which names the file and the field. */
export async function readMapFile(path: string): Promise<RetimeMap> {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(`${path}: ${error.code === 'ENOENT' ? 'file not found' : error.message}`);
  });
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new CommandFailed(`${path}: not valid JSON (${(error as Error).message})`);
  }
  const checked = checkMapFile(raw);
  if (!checked.ok) throw new CommandFailed(`${path}: ${describeErrors(checked.errors)}`);
  return checked.value;
}
