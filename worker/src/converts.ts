import { join } from 'node:path';
import { convertFile } from '@hastig/server';
import type { MadePart } from './renders';

interface Converting {
  signal: AbortSignal;
  /** Hears the share that is done, 0 to 1. */
  onProgress(share: number): void;
}

/** Converts a file that browsers don't decode. Throws ConversionFailed. */
export async function convertPart(from: string, folder: string, { signal, onProgress }: Converting): Promise<MadePart> {
  const path = join(folder, 'made');
  const begun = performance.now();
  await convertFile(from, path, { signal, onProgress: (share) => onProgress(share ?? 0) });
  return { path, frames: 0, took: (performance.now() - begun) / 1000 };
}
