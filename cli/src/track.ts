import type { TrackedPoint } from '@hastig/core';
import type { TrackQuestion } from '@hastig/engine/analyse';
import { withSourcePage } from './headless-source';

// The function that `page.evaluate` calls runs in the page, where it was put by `page/track-page.ts`.
declare const trackClip: (url: string, bytes: number, question: TrackQuestion) => Promise<TrackedPoint[]>;

/**
 * Follows what a box of one frame shows through a clip.
 *
 * @param onTracked hears how many frames are done
 * @throws CommandFailed for what cannot be read, has no pictures, or a frame or box that is not there
 */
export function trackOf(
  path: string,
  question: TrackQuestion,
  onTracked: (frames: number) => void,
): Promise<TrackedPoint[]> {
  return withSourcePage(path, './page/track-page.ts', async (page, url, bytes) => {
    await page.exposeFunction('onTracked', onTracked);
    return page.evaluate(([address, size, what]) => trackClip(address, size, what), [url, bytes, question] as const);
  });
}
