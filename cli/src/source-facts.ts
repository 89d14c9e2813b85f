import { open, stat } from 'node:fs/promises';
import type { MediaFacts } from '@hastig/contract';
import { readFacts } from '@hastig/probe';
import { FilePathSource } from 'mediabunny';
import { CommandFailed } from './fail';

/** What a media file is. Throws CommandFailed, which names it, for what is not there or cannot be read. */
export async function factsOf(path: string): Promise<MediaFacts> {
  const { size } = await stat(path).catch(() => {
    throw new CommandFailed(`${path}: file not found`);
  });
  const file = await open(path);
  try {
    const read = async (from: number, to: number): Promise<Uint8Array> => {
      const length = Math.max(0, to - from);
      const { buffer, bytesRead } = await file.read(new Uint8Array(length), 0, length, from);
      return buffer.subarray(0, bytesRead);
    };
    return await readFacts(new FilePathSource(path), size, read);
  } catch (error) {
    throw new CommandFailed(`${path}: ${(error as Error).message}`);
  } finally {
    await file.close();
  }
}
