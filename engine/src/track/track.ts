import { PointTracker, pointsOf, type Found, type PlanarPicture, type TrackBox, type TrackedPoint } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { RefusedMedia } from '@hastig/probe';
import type { MediaLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';
import type { SourceFrames } from '../media/source-frames';
import { ShownPlanes } from '../picture/shown-planes';

/** Frames decoded ahead of the one that is looked at, and bytes of decoded pictures kept: a long group, backwards. */
const LOOK_AHEAD = 12;
const BUDGET = 192 * 2 ** 20;
/** Pixels of a box each way at least. */
const LEAST = 4;
/** Pictures of which what is around the box is kept, so that all of them settle where it was; those after them are found by themselves. */
const MOST_KEPT = 4000;

/** What is tracked: the box of one frame, in pixels of the picture as displayed. */
export interface TrackQuestion {
  frame: number;
  box: TrackBox;
  /** Its look is taken anew where it has changed; it may drift a little each time. */
  renewed?: boolean;
  /** By brightness alone. */
  grey?: boolean;
}

/** Likeness below which a look that is renewed is taken anew, as long as it is sure to be it. */
const CHANGED = 0.92;
const STILL_IT = 0.75;

/**
 * Follows what a box of one frame shows through all of a source, from there to the end and back to the beginning.
 *
 * @param onDone hears how many frames are done
 * @returns where it is in each frame, in order
 * @throws RefusedMedia for a source without pictures; a RangeError for a frame or a box that is not there; the signal's reason
 */
export async function trackBox(
  location: MediaLocation,
  { frame, box, renewed = false, grey = false }: TrackQuestion,
  onDone: (frames: number) => void,
  signal?: AbortSignal,
): Promise<TrackedPoint[]> {
  const source = await openSource(location, new PictureBudget(BUDGET));
  try {
    const { exact: frames, size } = source;
    if (!size || frames.frames === 0) throw new RefusedMedia('Only pictures can be tracked.');
    if (!(Number.isInteger(frame) && frame >= 0 && frame < frames.frames))
      throw new RangeError(`there is no frame ${frame}; the last is ${frames.frames - 1}`);
    const inside = box.x < size.width && box.y < size.height && box.x + box.width > 0 && box.y + box.height > 0;
    // Of a larger one there is nothing more to see, and it would cost by its size.
    const fits = box.width >= LEAST && box.height >= LEAST && box.width <= size.width && box.height <= size.height;
    if (!inside || !fits)
      throw new RangeError(
        `a box has ${LEAST} pixels each way at least, is no larger than the picture, and lies in the picture`,
      );
    const shownPlanes = new ShownPlanes();
    const planes = { of: async (sample: VideoSample) => inGrey(await shownPlanes.of(sample), grey) };
    const found = new Array<Found>(frames.frames);
    const first = await frames.get(frame, signal);
    const start = await planes.of(first);
    first.close();
    let done = 0;
    let template: PointTracker['template'] | undefined;
    for (const way of [1, -1] as const) {
      let tracker = new PointTracker(start, box);
      ({ template } = tracker);
      found[frame] = tracker.start;
      for (let at = frame + way; at >= 0 && at < frames.frames; at += way) {
        signal?.throwIfAborted();
        const picture = await shown(frames, planes, at, way, signal);
        const one = tracker.next(picture);
        if (renewed && one.confidence > STILL_IT && one.confidence < CHANGED) tracker = tracker.renewed(picture);
        found[at] = done < MOST_KEPT && !renewed ? one : { pose: one.pose, confidence: one.confidence };
        onDone(++done);
      }
    }
    return pointsOf(renewed ? undefined : template, found);
  } finally {
    await source.close();
  }
}

/** A picture of which colour tells nothing, where that is wished. */
function inGrey(picture: PlanarPicture, grey: boolean): PlanarPicture {
  if (grey) picture.data.fill(128, picture.width * picture.height);
  return picture;
}

async function shown(
  frames: SourceFrames,
  planes: Pick<ShownPlanes, 'of'>,
  at: number,
  way: 1 | -1,
  signal: AbortSignal | undefined,
): ReturnType<ShownPlanes['of']> {
  const ahead = Array.from({ length: LOOK_AHEAD }, (_, n) => at + n * way);
  frames.prefetch(
    ahead.filter((one) => one >= 0 && one < frames.frames),
    way,
  );
  const sample = await frames.get(at, signal);
  try {
    return await planes.of(sample);
  } finally {
    sample.close();
  }
}
