import {
  isSeenBlur,
  isSeenFrame,
  isSeenMean,
  leafFrames,
  sameLeaf,
  type SeenFrame,
  type SeenLeaf,
  type SeenPicture,
} from '@hastig/core';
import { laneOf } from '../media/lane';

/** What a source gives to a picture and the lane of the source that it is taken from. */
interface LaneLeaf {
  lane: string;
  leaf: SeenLeaf;
}

/** A frame of a picture and the lane of its source that it is taken from. */
export interface LaneFrame {
  lane: string;
  seen: SeenFrame;
}

/**
 * What sources give to a picture, with their lanes. Where a source is seen twice at once, at different frames, each is passed by a
 * decoder of its own: one alone would go to and fro between both places and begin each time at a group's start. The frames of one
 * exposure lie one after the other, and one decoder passes them all.
 */
export function laneLeaves(picture: SeenPicture): LaneLeaf[] {
  const taken = new Map<string, SeenLeaf[]>();
  const lanes: LaneLeaf[] = [];
  // What moves keeps its decoders from moment to moment.
  const look = (layers: SeenPicture, mine?: Map<string, number>): void => {
    for (const { of } of layers) {
      if (isSeenBlur(of)) {
        const own = mine ?? new Map<string, number>();
        for (const moment of of.moments) look(moment.layers, own);
      } else if (isSeenFrame(of) || isSeenMean(of)) {
        const { sourceId } = leafFrames(of)[0]!;
        const leaves = taken.get(sourceId) ?? [];
        taken.set(sourceId, leaves);
        let lane = mine?.get(sourceId) ?? leaves.findIndex((other) => sameLeaf(other, of));
        if (lane < 0) lane = leaves.push(of) - 1;
        mine?.set(sourceId, lane);
        lanes.push({ lane: laneOf(sourceId, lane), leaf: of });
      } else look(of, mine);
    }
  };
  look(picture);
  return lanes;
}

/** The frames of a picture with their lanes. */
export const lanesOf = (picture: SeenPicture): LaneFrame[] =>
  laneLeaves(picture).flatMap(({ lane, leaf }) =>
    leafFrames(leaf).flatMap((seen) => [
      { lane, seen },
      ...(seen.share === undefined ? [] : [{ lane, seen: { ...seen, frame: seen.frame + 1 } }]),
    ]),
  );

/** The frames wanted of each lane, nearest first, for pictures in the order they are due. */
export function framesByLane(pictures: Iterable<readonly LaneFrame[]>): Map<string, number[]> {
  const wanted = new Map<string, number[]>();
  for (const picture of pictures) {
    for (const { lane, seen } of picture) {
      // What stands for it is found when it is wanted: it lies where a decoder begins.
      if (seen.key) continue;
      const frames = wanted.get(lane) ?? [];
      if (!frames.includes(seen.frame)) frames.push(seen.frame);
      wanted.set(lane, frames);
    }
  }
  return wanted;
}
