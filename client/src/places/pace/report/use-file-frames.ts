import type { Source } from '@hastig/contract';
import { countingOf, rateKey, type FileFrames } from '@hastig/core';
import { inWorker } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { locationOf } from '../../../store/selectors';

let kept: { key: string; frames: Promise<Uint32Array | null> } | undefined;

/** The file's frame at each position of a source; undefined where each is itself, and null until it is known. */
export function useFileFrames(source: Source | undefined): FileFrames | undefined | null {
  const counting = source && countingOf(source);
  const key = counting?.rate ? `${source!.sha256} ${counting.by} ${rateKey(counting.rate)}` : undefined;
  const [found, setFound] = useState<{ key: string; frames: FileFrames | undefined }>();
  useEffect(() => {
    if (!key || !source) return;
    if (kept?.key !== key) kept = { key, frames: inWorker((engine) => engine.fileFrames(locationOf(source))) };
    let wanted = true;
    void kept.frames
      .catch(() => {
        // Without its file the source's own positions are all that can be counted; the next time it may be there.
        kept = undefined;
        return null;
      })
      .then((frames) => wanted && setFound({ key, frames: frames ?? undefined }));
    return () => {
      wanted = false;
    };
  }, [key]);
  if (!key) return undefined;
  return found?.key === key ? found.frames : null;
}
