import type { Source } from '@hastig/contract';
import { startWorker, type EngineHandle } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { locationOf } from '../store/selectors';

/** A stretch of a source's samples, as one channel. */
export interface SampleStretch {
  sourceId: string;
  /** Index of the first. */
  first: number;
  samples: Float32Array;
}

/** Samples read at once, so that a view that is panned a little finds them there. */
const MARGIN = 8192;

/** The samples of a stretch that is looked at closely; what was read last stays until the next is there. */
export function useSamples(source: Source, wanted: { first: number; count: number } | null): SampleStretch | null {
  const worker = useRef<EngineHandle | null>(null);
  const [stretch, setStretch] = useState<SampleStretch | null>(null);
  useEffect(
    () => () => {
      worker.current?.end();
      worker.current = null;
    },
    [],
  );
  const first = wanted ? Math.max(0, Math.floor(wanted.first / MARGIN) * MARGIN) : -1;
  const count = wanted ? Math.ceil((wanted.first + wanted.count - first) / MARGIN + 1) * MARGIN : 0;
  useEffect(() => {
    if (first < 0) return undefined;
    let shown = true;
    worker.current ??= startWorker();
    worker.current.api.samples(locationOf(source), first, count).then(
      (samples) => shown && setStretch({ sourceId: source.id, first, samples }),
      // The waveform stays as coarse as it is; what is wrong with the file is told where it is heard.
      () => undefined,
    );
    return () => {
      shown = false;
    };
  }, [source, first, count]);
  return stretch?.sourceId === source.id ? stretch : null;
}
