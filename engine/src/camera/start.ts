import { CAMERA_NUMBERS } from '@hastig/contract';
import { proxy } from 'comlink';
import type { MediaLocation } from '../media/location';
import { running, type Running } from '../worker/handle';
import type { CameraQuestion } from './camera';

/** Workers at most, gigabytes of the device's memory for each, those that a browser that does not tell has, and positions that are worth one. */
const MOST_WORKERS = 4;
const MEMORY_EACH = 2;
const UNTOLD = 4;
const WORTH_ONE = 60;
/** Positions after which is told again how many are done. */
const TELL_EVERY = 8;

/**
 * Tells how a source's camera moves over some of its positions, in as many workers as there are cores, a stretch each.
 *
 * @param onDone hears how many positions are done
 * @returns nine numbers for each position, as a `SourceCamera` has them
 */
export function startCamera(
  location: MediaLocation,
  { from, to }: CameraQuestion,
  onDone: (positions: number) => void,
): Running<number[]> {
  // Each decodes for itself: a phone has memory for two.
  const { deviceMemory = UNTOLD } = navigator as { deviceMemory?: number };
  const fit = Math.min(MOST_WORKERS, navigator.hardwareConcurrency, Math.floor(deviceMemory / MEMORY_EACH));
  const count = Math.max(1, Math.min(fit, Math.floor((to - from) / WORTH_ONE)));
  const done = new Array<number>(count).fill(0);
  const edge = (part: number): number => from + Math.round(((to - from) * part) / count);
  const parts = done.map((_, part) => {
    const tell = (positions: number): void => {
      done[part] = positions;
      if (positions % TELL_EVERY === 0) onDone(done.reduce((sum, one) => sum + one, 0));
    };
    return running<number[]>((api) => api.camera(location, { from: edge(part), to: edge(part + 1) }, proxy(tell)));
  });
  const cancel = (): void => parts.forEach((part) => part.cancel());
  const result = Promise.all(parts.map((part) => part.result)).then((all) => {
    const moves = all.flat();
    if (moves.length !== CAMERA_NUMBERS * (to - from))
      throw new RangeError('The source has fewer frames than it says.');
    return moves;
  });
  // Where one breaks down, the others need not go on.
  result.catch(cancel);
  return { result, cancel };
}

/** Positions of a source whose camera is to be told. */
interface CameraPart extends CameraQuestion {
  location: MediaLocation;
}

/**
 * The same of several parts, one after another.
 *
 * @param onDone hears how many positions of all are done, @param onFound of each part as soon as it is told
 */
export function startCameras(
  parts: readonly CameraPart[],
  onDone: (positions: number) => void,
  onFound: (part: number, moves: number[]) => void,
): Running<void> {
  let current: Running<number[]> | undefined;
  let ended = false;
  const all = async (): Promise<void> => {
    let before = 0;
    for (const [index, { location, from, to }] of parts.entries()) {
      if (ended) return;
      const done = before;
      current = startCamera(location, { from, to }, (positions) => onDone(done + positions));
      onFound(index, await current.result);
      before += to - from;
    }
  };
  const cancel = (): void => {
    ended = true;
    current?.cancel();
  };
  return { result: all(), cancel };
}
