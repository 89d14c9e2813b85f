import type { Source } from '@hastig/contract';
import type { TrackBox, TrackedPoint } from '@hastig/core';
import { startCamera, startCameras, startTrack, type Running } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { locationOf } from '../../store/selectors';
import { useStable } from '../../ui/use-stable';

/** Work in a worker that is waited for. */
export interface Waiting {
  /** The share that is done, while it goes on. */
  progress: number | null;
  fault: string | null;
  cancel(): void;
}

/** Waits for one work at a time; whoever leaves ends it. */
function useRunning(): Waiting & {
  begin<T>(start: (onShare: (share: number) => void) => Running<T>, onDone: (result: T) => void): void;
} {
  const [progress, setProgress] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const running = useRef<(() => void) | null>(null);
  const cancel = useStable(() => {
    running.current?.();
    running.current = null;
    setProgress(null);
  });
  useEffect(() => cancel, [cancel]);
  const begin = <T>(start: (onShare: (share: number) => void) => Running<T>, onDone: (result: T) => void): void => {
    cancel();
    setFault(null);
    setProgress(0);
    const work = start(setProgress);
    running.current = work.cancel;
    const ended = (): boolean => {
      if (running.current !== work.cancel) return false;
      running.current = null;
      setProgress(null);
      return true;
    };
    work.result.then(
      (result) => ended() && onDone(result),
      (error: Error) => ended() && setFault(error.message),
    );
  };
  return { progress, fault, cancel, begin: useStable(begin) };
}

/** How what a box shows is looked for. */
export interface TrackWay {
  renewed: boolean;
  grey: boolean;
}

/**
 * Follows what a box shows through a source.
 *
 * @param frames of the source
 * @param onFound hears where it is in each frame
 */
export function useTracking(
  source: Source,
  frames: number,
  onFound: (points: TrackedPoint[], frame: number, box: TrackBox) => void,
): Waiting & { begin(frame: number, box: TrackBox, way: TrackWay): void } {
  const { begin, ...waiting } = useRunning();
  return {
    ...waiting,
    begin: (frame, box, way) =>
      begin(
        (onShare) => startTrack(locationOf(source), { frame, box, ...way }, (done) => onShare(done / frames)),
        (points) => onFound(points, frame, box),
      ),
  };
}

/** Tells how a source's camera moves. @param onFound hears nine numbers for each position, see `SourceCamera` */
export function useCameraAnalysis(
  source: Source,
  onFound: (moves: number[], from: number) => void,
): Waiting & { begin(from: number, to: number): void } {
  const { begin, ...waiting } = useRunning();
  return {
    ...waiting,
    begin: (from, to) =>
      begin(
        (onShare) => startCamera(locationOf(source), { from, to }, (done) => onShare(done / (to - from))),
        (moves) => onFound(moves, from),
      ),
  };
}

/** Positions of a source whose camera is to be told. */
export interface SourcePart {
  source: Source;
  from: number;
  to: number;
}

/** The same for several parts, one after another. @param onFound hears of each as soon as it is told: what is called off keeps it */
export function useCameraAnalyses(
  onFound: (part: SourcePart, moves: number[]) => void,
): Waiting & { begin(parts: readonly SourcePart[]): void } {
  const { begin, ...waiting } = useRunning();
  const heard = useStable(onFound);
  return {
    ...waiting,
    begin: (parts) => {
      const all = parts.reduce((sum, { from, to }) => sum + to - from, 0);
      const asked = parts.map(({ source, from, to }) => ({ location: locationOf(source), from, to }));
      begin(
        (onShare) =>
          startCameras(
            asked,
            (done) => onShare(done / all),
            (index, moves) => heard(parts[index]!, moves),
          ),
        () => undefined,
      );
    },
  };
}
