import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { RetimeMap, SoundSettings } from '@hastig/contract';
import { constantSpan, EditRefused, pasteTiming, rateToNumber, timingOf, type PasteHow } from '@hastig/core';
import type { RenderProgress, RenderResult } from '@hastig/engine';
import { CommandFailed } from '../fail';
import { freeNames, stemOf } from '../free-names';
import { renderFile } from '../render';
import { takeClip } from '../source-facts';

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

/** One timing on a clip: what it would be were the clip copied onto. Throws CommandFailed. */
async function mapFor(clip: string, map: RetimeMap, how: PasteHow): Promise<RetimeMap> {
  const { frames, rate } = await takeClip(clip);
  const length = (frames * rateToNumber(map.outputRate)) / rateToNumber(rate);
  const plain: RetimeMap = {
    ...{ sourceRate: rate, outputRate: map.outputRate, sourceFrames: frames, start: 0 },
    spans: [constantSpan(1, length)],
  };
  try {
    return pasteTiming(plain, timingOf(map), how);
  } catch (error) {
    if (error instanceof EditRefused) throw new CommandFailed(error.message);
    throw error;
  }
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
      const mapped = await mapFor(clip, map, how);
      const job = { source: clip, map: mapped, out: file, quality: 'high', sound: true, onProgress } as const;
      onFile(file, await renderFile({ ...job, ...(voice && { voice }) }));
    } catch (error) {
      if (!(error instanceof CommandFailed)) throw error;
      failed++;
      onFault(clip, error.message);
    }
  }
  return failed;
}
