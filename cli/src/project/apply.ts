import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { RetimeMap, SoundSettings } from '@hastig/contract';
import type { PasteHow } from '@hastig/core';
import type { RenderProgress, RenderResult } from '@hastig/engine';
import { isForPeople } from '../fail';
import { freeNames, stemOf } from '../free-names';
import { renderFile } from '../render';
import type { TakenClip } from '../source-facts';
import { mapFor } from './map-for';

interface ApplyOptions {
  map: RetimeMap;
  out: string;
  /** The ending of the files. */
  as: string;
  /** As it is stored, or its shape in each clip's length. */
  how: PasteHow;
  voice?: SoundSettings;
  onProgress(progress: RenderProgress): void;
  onFile(path: string, result: RenderResult): void;
  /** Hears of a clip that came to nothing; the others are made all the same. */
  onFault(clip: string, words: string): void;
}

/** Renders clips with one timing, each to a file of its name in a folder. @returns how many came to nothing */
export async function applyTo(clips: readonly string[], options: ApplyOptions): Promise<number> {
  const { out, as, how, map, voice, onProgress, onFile, onFault } = options;
  await mkdir(out, { recursive: true });
  let failed = 0;
  const free = freeNames();
  for (const clip of clips) {
    const file = join(out, `${free(stemOf(clip))}.${as}`);
    try {
      const mapped = (taken: TakenClip): RetimeMap => mapFor(taken, map, how);
      const job = { source: clip, map: mapped, out: file, quality: 'high', sound: true, onProgress } as const;
      onFile(file, await renderFile({ ...job, ...(voice && { voice }) }));
    } catch (error) {
      if (!isForPeople(error)) throw error;
      failed++;
      onFault(clip, error.message);
    }
  }
  return failed;
}
