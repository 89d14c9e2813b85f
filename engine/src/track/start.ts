import type { TrackedPoint } from '@hastig/core';
import { proxy } from 'comlink';
import type { MediaLocation } from '../media/location';
import { running, type Running } from '../worker/handle';
import type { TrackQuestion } from './track';

/** Frames after which is told again how many are done. */
const TELL_EVERY = 8;

/**
 * Follows what a box shows through a source, onwards and back at once, in a worker each.
 *
 * @param onDone hears how many frames are done
 */
export function startTrack(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
): Running<TrackedPoint[]> {
  const done = { 1: 0, [-1]: 0 };
  const ways = ([1, -1] as const).map((way) => {
    const tell = (frames: number): void => {
      done[way] = frames;
      if (frames % TELL_EVERY === 0) onDone(done[1] + done[-1]);
    };
    return running((api) => api.trackWay(location, question, way, proxy(tell)));
  });
  let settling: Running<TrackedPoint[]> | undefined;
  let cancelled = false;
  const cancel = (): void => {
    cancelled = true;
    for (const work of [...ways, ...(settling ? [settling] : [])]) work.cancel();
  };
  const result = Promise.all(ways.map((way) => way.result)).then(([onwards, back]) => {
    settling = running((api) => api.pointsOfWays(onwards!, back!));
    if (cancelled) settling.cancel();
    return settling.result;
  });
  // Where one breaks down, the other need not go on.
  result.catch(cancel);
  return { result, cancel };
}
