import { isLeaf, isSeenMix, leafFrames, sameLeaf, type SeenFrame, type SeenLeaf, type SeenPicture } from '@hastig/core';
import { decoderOf } from '../media/decoder-id';

/** What a source gives to a picture and the decoder of the source that it is taken from. */
interface DecoderLeaf {
  decoder: string;
  leaf: SeenLeaf;
}

/** A frame of a picture and the decoder of its source that it is taken from. */
export interface DecoderFrame {
  decoder: string;
  seen: SeenFrame;
}

/**
 * What sources give to a picture, with their decoders. Where a source is seen twice at once, at different frames, each is passed by a
 * decoder of its own: one alone would go to and fro between both places and begin each time at a group's start. The frames of one
 * exposure lie one after the other, and one decoder passes them all.
 */
export function decoderLeaves(picture: SeenPicture): DecoderLeaf[] {
  const taken = new Map<string, SeenLeaf[]>();
  const decoders: DecoderLeaf[] = [];
  // What moves keeps its decoders from moment to moment.
  const look = (layers: SeenPicture, mine?: Map<string, number>): void => {
    for (const { of } of layers) {
      if (isSeenMix(of)) {
        const own = mine ?? new Map<string, number>();
        for (const moment of of.moments) look(moment.layers, own);
      } else if (isLeaf(of)) {
        const { sourceId } = leafFrames(of)[0]!;
        const leaves = taken.get(sourceId) ?? [];
        taken.set(sourceId, leaves);
        let decoder = mine?.get(sourceId) ?? leaves.findIndex((other) => sameLeaf(other, of));
        if (decoder < 0) decoder = leaves.push(of) - 1;
        mine?.set(sourceId, decoder);
        decoders.push({ decoder: decoderOf(sourceId, decoder), leaf: of });
      } else look(of, mine);
    }
  };
  look(picture);
  return decoders;
}

/** The frames of a picture with their decoders. */
export const decodersOf = (picture: SeenPicture): DecoderFrame[] =>
  decoderLeaves(picture).flatMap(({ decoder, leaf }) =>
    leafFrames(leaf).flatMap((seen) => [
      { decoder, seen },
      ...(seen.share === undefined ? [] : [{ decoder, seen: { ...seen, frame: seen.frame + 1 } }]),
    ]),
  );

/** The frames wanted of each decoder, nearest first, for pictures in the order they are due. */
export function framesByDecoder(pictures: Iterable<readonly DecoderFrame[]>): Map<string, number[]> {
  const wanted = new Map<string, number[]>();
  for (const picture of pictures) {
    for (const { decoder, seen } of picture) {
      // What stands for it is found when it is wanted: it lies where a decoder begins.
      if (seen.key) continue;
      const frames = wanted.get(decoder) ?? [];
      if (!frames.includes(seen.frame)) frames.push(seen.frame);
      wanted.set(decoder, frames);
    }
  }
  return wanted;
}
