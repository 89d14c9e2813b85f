import type { Counting, Fields, SourceCamera } from '@hastig/contract';
import type { CameraQuestion } from '@hastig/engine/analyse';
import { withSourcePage } from './headless-source';
import type { TakenFile } from './page/camera-page';

// The function that `page.evaluate` calls runs in the page, where it was put by `page/camera-page.ts`.
declare const cameraOfClip: (file: TakenFile, question: CameraQuestion) => Promise<number[]>;

/** How a file's frames are counted, and how many that are. */
export interface Taken {
  frames: number;
  fields: Fields;
  counting: Counting;
}

/**
 * How the camera of a clip moved, over all of it.
 *
 * @param onAnalysed hears how many frames are done
 * @throws CommandFailed for what cannot be read or has no pictures
 */
export function cameraOf(
  path: string,
  { frames, fields, counting }: Taken,
  onAnalysed: (frames: number) => void,
): Promise<SourceCamera> {
  return withSourcePage(path, './page/camera-page.ts', async (page, url, bytes) => {
    await page.exposeFunction('onAnalysed', onAnalysed);
    const file = { url, bytes, fields, counting };
    const question = { from: 0, to: frames };
    return {
      from: 0,
      moves: await page.evaluate(([which, what]) => cameraOfClip(which, what), [file, question] as const),
    };
  });
}
