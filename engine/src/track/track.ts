import {
  PointTracker,
  pointsOf,
  type Found,
  type PlanarPicture,
  type Size,
  type TrackBox,
  type TrackedPoint,
} from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { RefusedMedia } from '@hastig/probe';
import type { MediaLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';
import type { SourceFrames } from '../media/source-frames';
import { ShownPlanes } from '../picture/shown-planes';

/** Frames decoded ahead of the one that is looked at, and bytes of decoded pictures kept on each way: a long group, backwards. */
const LOOK_AHEAD = 12;
const BUDGET = 96 * 2 ** 20;
/** Pixels of a box each way at least. */
const LEAST = 4;
/** Pictures on each way of which what is around the box is kept, so that all of them settle where it was; those after them are found by themselves. */
const MOST_KEPT = 2000;

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

/** What was found in frames from the one with the box on, one after the other; the first is that one. */
interface FoundWay {
  found: Found[];
  /** What was looked for; undefined where that was taken anew on the way. */
  template: PointTracker['template'] | undefined;
}

/**
 * Follows what a box of one frame shows through a source, to its end or back to its beginning.
 *
 * @param onDone hears how many frames are done
 * @throws RefusedMedia for a source without pictures; a RangeError for a frame or a box that is not there; the signal's reason
 */
async function trackWay(
  location: MediaLocation,
  { frame, box, renewed = false, grey = false }: TrackQuestion,
  way: 1 | -1,
  onDone: (frames: number) => void,
  signal?: AbortSignal,
): Promise<FoundWay> {
  const source = await openSource(location, new PictureBudget(BUDGET));
  try {
    const { exact: frames, size } = source;
    if (!size || frames.frames === 0) throw new RefusedMedia('Only pictures can be tracked.');
    refuseOutside({ frame, box }, size, frames.frames);
    const shownPlanes = new ShownPlanes();
    const planes = { of: async (sample: VideoSample) => inGrey(await shownPlanes.of(sample), grey) };
    const first = await frames.get(frame, signal);
    let tracker = new PointTracker(await planes.of(first), box);
    first.close();
    const { template } = tracker;
    const found = [tracker.start];
    for (let at = frame + way; at >= 0 && at < frames.frames; at += way) {
      signal?.throwIfAborted();
      const picture = await shown(frames, planes, at, way, signal);
      const one = tracker.next(picture);
      if (renewed && one.confidence > STILL_IT && one.confidence < CHANGED) tracker = tracker.renewed(picture);
      found.push(found.length < MOST_KEPT && !renewed ? one : { pose: one.pose, confidence: one.confidence });
      onDone(found.length - 1);
    }
    return { found, template: renewed ? undefined : template };
  } finally {
    await source.close();
  }
}

function refuseOutside({ frame, box }: TrackQuestion, { width, height }: Size, frames: number): void {
  if (!(Number.isInteger(frame) && frame >= 0 && frame < frames))
    throw new RangeError(`there is no frame ${frame}; the last is ${frames - 1}`);
  const inside = box.x < width && box.y < height && box.x + box.width > 0 && box.y + box.height > 0;
  // Of a larger one there is nothing more to see, and it would cost by its size.
  const fits = box.width >= LEAST && box.height >= LEAST && box.width <= width && box.height <= height;
  if (!inside || !fits)
    throw new RangeError(
      `a box has ${LEAST} pixels each way at least, is no larger than the picture, and lies in the picture`,
    );
}

/** Where it is in each frame of a source, in order, by what was found on both ways. */
function pointsOfWays(onwards: FoundWay, back: FoundWay): TrackedPoint[] {
  return pointsOf(onwards.template, [...back.found.slice(1).reverse(), ...onwards.found]);
}

/** Follows it back to the source's beginning, and sends what was found through a port, to `trackWith`. Throws what `trackWay` does. */
export async function trackBack(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
  port: MessagePort,
): Promise<void> {
  port.postMessage(await trackWay(location, question, -1, onDone));
}

/** Follows it to the source's end, and settles it with what `trackBack` finds meanwhile, in another worker. Throws what `trackWay` does. */
export async function trackWith(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
  port: MessagePort,
): Promise<TrackedPoint[]> {
  const back = new Promise<FoundWay>((resolve) => {
    port.onmessage = ({ data }: MessageEvent<FoundWay>) => resolve(data);
  });
  return pointsOfWays(await trackWay(location, question, 1, onDone), await back);
}

/** Follows what a box of one frame shows through all of a source, one way after the other. Throws what `trackWay` does. */
export async function trackBox(
  location: MediaLocation,
  question: TrackQuestion,
  onDone: (frames: number) => void,
  signal?: AbortSignal,
): Promise<TrackedPoint[]> {
  const onwards = await trackWay(location, question, 1, onDone, signal);
  const before = onwards.found.length - 1;
  return pointsOfWays(onwards, await trackWay(location, question, -1, (done) => onDone(before + done), signal));
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
