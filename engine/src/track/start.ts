import type { TrackedPoint } from '@hastig/core';
import { proxy, transfer } from 'comlink';
import type { MediaLocation } from '../media/location';
import { running, type Running } from '../worker/handle';
import type { TrackQuestion } from './track';

/** Frames after which is told again how many are done. */
const TELL_EVERY = 8;

/**
 * Follows what a box shows through a source, onwards and back at once, in a worker each; what one found goes to the other straight away.
 *
 * @param onDone hears how many frames are done
 */
export function startTrack(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
): Running<TrackedPoint[]> {
  const done = [0, 0];
  const tell = (way: 0 | 1): ((frames: number) => void) =>
    proxy((frames: number) => {
      done[way] = frames;
      if (frames % TELL_EVERY === 0) onDone(done[0]! + done[1]!);
    });
  const { port1, port2 } = new MessageChannel();
  const onwards = running((api) => api.trackWith(location, question, tell(0), transfer(port1, [port1])));
  // It stays until what it found has arrived: a worker that ends takes its messages along.
  const back = running(async (api) => {
    await api.trackBack(location, question, tell(1), transfer(port2, [port2]));
    await onwards.result;
  });
  const cancel = (): void => {
    onwards.cancel();
    back.cancel();
  };
  const result = Promise.all([onwards.result, back.result]).then(([points]) => points);
  // Where one breaks down, the other need not go on.
  result.catch(cancel);
  return { result, cancel };
}
