import { CameraTracker, keptMoves } from '@hastig/core';
import { RefusedMedia } from '@hastig/probe';
import type { MediaLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';
import { ShownPlanes } from '../picture/shown-planes';

/** Frames decoded ahead of the one that is looked at, and bytes of decoded pictures kept: the way goes straight on. */
const LOOK_AHEAD = 12;
const BUDGET = 96 * 2 ** 20;

/** Positions of a source, from the first up to the last and one. */
export interface CameraQuestion {
  from: number;
  to: number;
}

/**
 * How a source's camera moves to each of its positions from the one before.
 *
 * @param onDone hears how many are done
 * @returns nine numbers for each, as a `SourceCamera` has them
 * @throws RefusedMedia for a source without moving pictures; what opening and decoding throw
 */
export async function findCamera(
  location: MediaLocation,
  { from, to }: CameraQuestion,
  onDone: (positions: number) => void,
): Promise<number[]> {
  const source = await openSource(location, new PictureBudget(BUDGET));
  try {
    const { exact: frames, size } = source;
    if (!size || frames.frames === 0) throw new RefusedMedia('Only pictures have a camera.');
    const planes = new ShownPlanes();
    const tracker = new CameraTracker(size);
    const end = Math.min(to, frames.frames);
    // The first one is told by the one before it.
    const start = Math.max(0, from - 1);
    for (let at = start; at < end; at++) {
      frames.prefetch(
        Array.from({ length: Math.min(LOOK_AHEAD, end - at) }, (_, n) => at + n),
        1,
      );
      const sample = await frames.get(at);
      try {
        tracker.push(await planes.of(sample));
      } finally {
        sample.close();
      }
      onDone(at + 1 - start);
    }
    return keptMoves(tracker.moves().slice(from - start), size);
  } finally {
    await source.close();
  }
}
