import type { Rate } from '@hastig/contract';
import type { FoundMoment } from '@hastig/core';
import { CommandFailed } from './fail';
import { withSourcePage } from './headless-source';
import { factsOf } from './source-facts';

// The function that `page.evaluate` calls runs in the page, where it was put by `page/moments-page.ts`.
declare const findClipMoments: (url: string, bytes: number, rate: Rate, audible: boolean) => Promise<FoundMoment[]>;

/** The moments of a clip. Throws CommandFailed for what cannot be read or has no moving picture. */
export async function momentsOf(path: string): Promise<FoundMoment[]> {
  const { video, audio } = await factsOf(path);
  if (!video) throw new CommandFailed(`${path}: only moving pictures have moments`);
  return withSourcePage(path, './page/moments-page.ts', (page, url, bytes) =>
    page.evaluate(([address, size, rate, audible]) => findClipMoments(address, size, rate, audible), [
      url,
      bytes,
      video.rate,
      audio !== null,
    ] as const),
  );
}
