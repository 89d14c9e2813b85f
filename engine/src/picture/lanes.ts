import { framesOf, type SeenFrame, type SeenPicture } from '@hastig/core';
import { laneOf } from '../media/lane';

/** A frame of a picture and the lane of its source that it is taken from. */
export interface LaneFrame {
  lane: string;
  seen: SeenFrame;
}

/**
 * The frames of a picture with their lanes. Where a source is seen twice at once, at different frames, each is passed by a
 * decoder of its own: one alone would go to and fro between both places and begin each time at a group's start.
 */
export function lanesOf(picture: SeenPicture): LaneFrame[] {
  const taken = new Map<string, number[]>();
  return framesOf(picture).map((seen) => {
    const frames = taken.get(seen.sourceId) ?? [];
    taken.set(seen.sourceId, frames);
    if (!frames.includes(seen.frame)) frames.push(seen.frame);
    return { lane: laneOf(seen.sourceId, frames.indexOf(seen.frame)), seen };
  });
}

/** The frames wanted of each lane, nearest first, for pictures in the order they are due. */
export function framesByLane(pictures: Iterable<readonly LaneFrame[]>): Map<string, number[]> {
  const wanted = new Map<string, number[]>();
  for (const picture of pictures) {
    for (const { lane, seen } of picture) {
      const frames = wanted.get(lane) ?? [];
      if (!frames.includes(seen.frame)) frames.push(seen.frame);
      wanted.set(lane, frames);
    }
  }
  return wanted;
}
