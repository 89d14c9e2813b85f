import type { Source } from '@hastig/contract';
import type { TrackBox, TrackedPoint } from '@hastig/core';
import { startTrack } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { locationOf } from '../store/selectors';
import { useStable } from '../ui/use-stable';

/** Something that is followed. */
interface Tracking {
  /** The share of the frames that are done, while it goes on. */
  progress: number | null;
  fault: string | null;
  begin(frame: number, box: TrackBox): void;
  cancel(): void;
}

/**
 * Follows what a box shows through a source, in a worker of its own; whoever leaves ends it.
 *
 * @param frames of the source
 * @param onFound hears where it is in each frame
 */
export function useTracking(
  source: Source,
  frames: number,
  onFound: (points: TrackedPoint[], frame: number, box: TrackBox) => void,
): Tracking {
  const [progress, setProgress] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const running = useRef<(() => void) | null>(null);
  const cancel = useStable(() => {
    running.current?.();
    running.current = null;
    setProgress(null);
  });
  useEffect(() => cancel, [cancel]);
  const begin = useStable((frame: number, box: TrackBox) => {
    cancel();
    setFault(null);
    setProgress(0);
    const tracking = startTrack(locationOf(source), { frame, box }, (done) => setProgress(done / frames));
    running.current = tracking.cancel;
    const mine = (): boolean => running.current === tracking.cancel;
    tracking.result.then(
      (points) => {
        if (!mine()) return;
        running.current = null;
        setProgress(null);
        onFound(points, frame, box);
      },
      (error: Error) => {
        if (!mine()) return;
        running.current = null;
        setProgress(null);
        setFault(error.message);
      },
    );
  });
  return { progress, fault, begin, cancel };
}
