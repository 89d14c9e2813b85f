import type { MediaFacts, Source } from '@hastig/contract';
import { laysToNearest } from '@hastig/core';
import { inWorker } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { locationOf } from '../store/selectors';

const looked = new Map<string, Promise<MediaFacts | null>>();

/**
 * What a file is, looked at anew, where it was looked at by a version that knew less of irregular frames and the file has more to
 * say; else undefined.
 */
export function useFactsAnew(source: Source): MediaFacts | undefined {
  const { sha256, facts } = source;
  const wanted = facts.video && !facts.video.constantRate && !laysToNearest(facts) ? sha256 : undefined;
  const [found, setFound] = useState<{ sha256: string; facts: MediaFacts | null }>();
  useEffect(() => {
    if (!wanted) return;
    const look = looked.get(wanted) ?? inWorker((engine) => engine.inspect(locationOf(source))).catch(() => null);
    looked.set(wanted, look);
    let open = true;
    void look.then((fresh) => {
      // Its file may be missing now and there the next time.
      if (!fresh) looked.delete(wanted);
      if (open) setFound({ sha256: wanted, facts: fresh });
    });
    return () => {
      open = false;
    };
  }, [wanted]);
  if (!wanted || found?.sha256 !== wanted || !found.facts?.video) return undefined;
  // Of a file with an edit list an older version may have counted frames that are not shown.
  return found.facts.video.frames === facts.video!.frames ? found.facts : undefined;
}
