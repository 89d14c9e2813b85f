import type { Clip, ProjectDocument } from '@hastig/contract';
import { EditRefused, movePins, type PinMove } from '../../retime';
import { mapOf } from '../clip-map';
import { findClip, placeOf } from '../lookup';
import { markersBeside, type SeenMarker } from '../markers-seen';
import { withTiming } from './length';

/** Frames by which a pin and a marker may be apart and still belong together. */
const TOGETHER = 1e-4;

/** A project in which pins went along with their markers, and the names of the clips where they could not. */
interface Followed {
  project: ProjectDocument;
  stayed: string[];
}

/**
 * After an edit that moved markers (nudged beats, music that was moved or retimed): the pins that lay on them lie on them again, in all
 * clips that did not change themselves.
 *
 * @param before the project before the edit, `after` the one after it
 */
export function pinsWithMarkers(before: ProjectDocument, after: ProjectDocument): Followed {
  const followed: Followed = { project: after, stayed: [] };
  for (const clip of after.clips) {
    const moves = movesOf(before, after, clip);
    if (moves.length === 0) continue;
    try {
      followed.project = withTiming(followed.project, clip.id, movePins(mapOf(after, clip), moves));
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      followed.stayed.push(clip.name);
    }
  }
  return followed;
}

function movesOf(before: ProjectDocument, after: ProjectDocument, clip: Clip): PinMove[] {
  const { pins = [] } = clip.timing;
  const old = findClip(before, clip.id);
  if (pins.length === 0 || old?.timing !== clip.timing || old.shown !== clip.shown) return [];
  const [was, is] = [placeOf(before, clip.id), placeOf(after, clip.id)];
  // A clip that moved itself keeps what it shows.
  if (!was || !is || was.from !== is.from) return [];
  // Those of its own content lie where its timing puts them; it is the others that a pin follows.
  const beside = (project: ProjectDocument): SeenMarker[] =>
    markersBeside(project, clip.id).filter(({ clipId }) => clipId !== clip.id);
  const [then, now] = [beside(before), beside(after)];
  return pins.flatMap(({ output }) => {
    const index = then.findIndex(({ at }) => Math.abs(at - output) < TOGETHER);
    const to = index >= 0 ? again(then, index, now) : undefined;
    return to === undefined || Math.abs(to - output) < 1e-9 ? [] : [{ from: output, to }];
  });
}

/** Where the marker that stood at a place stands now; of one that passes several times the same of those. */
function again(then: readonly SeenMarker[], index: number, now: readonly SeenMarker[]): number | undefined {
  const { marker } = then[index]!;
  const turn = then.slice(0, index).filter((one) => one.marker.id === marker.id).length;
  return now.filter((one) => one.marker.id === marker.id)[turn]?.at;
}
