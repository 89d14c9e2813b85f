import { createHash } from 'node:crypto';
import { readFileInto } from './streams';

/** SHA-256 of a file's content, in hexadecimal digits. */
export async function digest(path: string): Promise<string> {
  const hash = createHash('sha256');
  await readFileInto(path, hash);
  return hash.digest('hex');
}
