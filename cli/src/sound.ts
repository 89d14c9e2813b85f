import { rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { RetimeMap, SoundSettings } from '@hastig/contract';
import type { SoundJob } from '@hastig/engine/analyse';
import { CommandFailed } from './fail';
import { withSourcePage } from './headless-source';
import { WaveFile } from './wave-file';

// The functions that `page.evaluate` calls run in the page, where they were put by `page/sound-page.ts`.
declare const makeSound: (job: SoundJob) => Promise<void>;
declare const measureLoudness: (url: string, bytes: number) => Promise<MeasuredLoudness>;

/** Null where it is silent. */
interface MeasuredLoudness {
  integrated: number | null;
  range: number | null;
  momentaryMax: number | null;
  shortTermMax: number | null;
  truePeak: number | null;
}

interface SoundOptions {
  source: string;
  map: RetimeMap;
  out: string;
  settings: Partial<SoundSettings>;
  rate: number;
}

/** Writes a file's sound at a timing. Throws CommandFailed for what cannot be read or written; gives the samples of each channel. */
export async function soundFile({ source, map, out, settings, rate }: SoundOptions): Promise<number> {
  // What lies there already stays until all is written.
  const part = `${out}.part`;
  const file = await WaveFile.create(part, 2, rate).catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(error.code === 'ENOENT' ? `${dirname(out)}: folder not found` : `${out}: ${error.message}`);
  });
  try {
    await withSourcePage(source, './page/sound-page.ts', async (page, url, bytes) => {
      await page.exposeFunction('onSound', (piece: string) => file.add(Buffer.from(piece, 'base64')));
      await page.evaluate((job) => makeSound(job), { location: { url, bytes, once: true }, map, settings, rate });
    });
    const samples = await file.close();
    await rename(part, out);
    return samples;
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(part, { force: true });
    throw error;
  }
}

/** How loud a file is, as one line: integrated, range, momentary_max, short_term_max, true_peak. */
export async function loudnessLine(path: string): Promise<string> {
  const { integrated, range, momentaryMax, shortTermMax, truePeak } = await withSourcePage(
    path,
    './page/sound-page.ts',
    (page, url, bytes) => page.evaluate(([address, size]) => measureLoudness(address, size), [url, bytes] as const),
  );
  const told = (value: number | null): string => (value === null ? '-inf' : value.toFixed(1));
  return [integrated, range, momentaryMax, shortTermMax, truePeak].map(told).join(',');
}
