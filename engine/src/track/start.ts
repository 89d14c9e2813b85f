import type { TrackedPoint } from '@hastig/core';
import { proxy } from 'comlink';
import type { MediaLocation } from '../media/location';
import { running, type Running } from '../worker/handle';
import type { TrackQuestion } from './track';

/** Frames after which is told again how many are done. */
const TELL_EVERY = 8;

/**
 * Follows what a box shows through a source, in a worker of its own.
 *
 * @param onDone hears how many frames are done
 */
export function startTrack(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
): Running<TrackedPoint[]> {
  const tell = (frames: number): void => {
    if (frames % TELL_EVERY === 0) onDone(frames);
  };
  return running((api) => api.track(location, question, proxy(tell)));
}
