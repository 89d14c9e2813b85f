import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { ConversionFailed, convertFile, foundWords } from '@hastig/server';
import { freeNames, stemOf } from './free-names';

interface ConvertOptions {
  out: string;
  onProgress(file: string, share: number | undefined): void;
  onFile(from: string, to: string, what: string): void;
  /** Hears of a file that came to nothing; the others are made all the same. */
  onFault(file: string, words: string): void;
}

/** Makes of files that browsers don't decode ones that they do, in a folder. @returns how many came to nothing */
export async function convertAll(files: readonly string[], options: ConvertOptions): Promise<number> {
  const { out, onProgress, onFile, onFault } = options;
  await mkdir(out, { recursive: true });
  const free = freeNames();
  let failed = 0;
  for (const file of files) {
    const to = join(out, `${free(stemOf(file))}.mov`);
    try {
      const found = await convertFile(file, to, { onProgress: (share) => onProgress(file, share) });
      onFile(file, to, found.video ? foundWords(found) : 'sound');
    } catch (error) {
      if (!(error instanceof ConversionFailed)) throw error;
      failed++;
      onFault(file, error.message);
    }
  }
  return failed;
}
