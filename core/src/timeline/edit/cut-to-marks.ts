import type { ProjectDocument, TrackItem } from '@hastig/contract';
import { EditRefused, frameCount } from '../../retime';
import { mapOf } from '../clip-map';
import { carryUp } from './length';
import { moveClips, placesOf } from './arrange';
import { needClip, withClip, withItems } from './items';

interface CutOptions {
  /** Frames of the timeline at which cuts may lie, in order; they are rounded to whole frames. */
  marks: readonly number[];
  /** Marks from one cut to the next. */
  every: number;
}

/**
 * A rough cut to a beat: clips of one track follow one another, each from one mark to another, the first from the mark at or after its
 * start. Each begins as it began and is trimmed, or shown further, to reach its mark; its speed stays.
 *
 * @throws EditRefused where marks run out, or a clip has too little left to reach its mark
 */
export function cutToMarks(
  project: ProjectDocument,
  clipIds: readonly string[],
  { marks, every }: CutOptions,
): ProjectDocument {
  const places = placesOf(project, clipIds);
  if (new Set(places.map(({ track }) => track.id)).size > 1)
    throw new EditRefused('clips', 'The selected clips are on different tracks. Select clips of one track.');
  if (!(Number.isInteger(every) && every >= 1)) throw new EditRefused('every', 'A clip must last at least 1 beat.');
  const { containerId, track, from: start } = places[0]!;
  const cuts = [...new Set(marks.map((at) => Math.round(at)))].filter((at) => at >= start);
  const need = places.length * every + 1;
  if (cuts.length < need) {
    throw new EditRefused(
      'marks',
      `${need} markers are needed from the first clip’s start on; there are ${cuts.length}. Set more, or use fewer per clip.`,
    );
  }
  const ends = new Map(places.map(({ clip }, index) => [clip.id, [cuts[index * every]!, cuts[(index + 1) * every]!]]));
  const trimmed = places.reduce((state, { clip }) => {
    const [from, to] = ends.get(clip.id)!;
    return shownFor(state, clip.id, to! - from!);
  }, project);
  const chosen = new Set(clipIds);
  const moved = withItems(trimmed, containerId, track.id, (items) => {
    const first = items.findIndex((item) => 'clip' in item && chosen.has(item.clip));
    const before = items.slice(0, first);
    const row = places.map(({ clip }): TrackItem => ({ clip: clip.id }));
    const after = items.slice(first).filter((item) => !('clip' in item && chosen.has(item.clip)));
    return [...before, { gap: cuts[0]! - start }, ...row, ...after];
  });
  return carryUp(project, moved, containerId);
}

/** Shows a clip for so many frames from where it begins; the rest is hidden. */
function shownFor(project: ProjectDocument, clipId: string, frames: number): ProjectDocument {
  const { clip } = needClip(project, clipId);
  const left = frameCount(mapOf(project, clip)) - clip.shown.from;
  if (frames > left) {
    throw new EditRefused(
      'marks',
      `“${clip.name}” has ${left} frames from its start on; its beats take ${frames}. Slow it down, or use fewer beats.`,
    );
  }
  return withClip(project, clipId, (one) => ({ ...one, shown: { ...one.shown, frames } }));
}

/**
 * Puts one clip between two marks: a chosen frame of its timing under the one, the last that is seen before the other, all else
 * hidden. What lay in that place of its track gives way as to any clip that is moved there.
 *
 * @param first output frame of the clip's timing that lies at `from`
 * @param from and `to` frames of the timeline; rounded to whole ones
 */
export function clipBetween(
  project: ProjectDocument,
  clipId: string,
  first: number,
  { from, to }: { from: number; to: number },
): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const [start, end] = [Math.round(from), Math.round(to)];
  if (end <= start) throw new EditRefused('marks', 'The second marker must be after the first.');
  const shown = { from: Math.max(0, Math.round(first)), frames: end - start };
  const left = frameCount(mapOf(project, clip)) - shown.from;
  if (shown.frames > left) {
    throw new EditRefused(
      'marks',
      `“${clip.name}” has ${left} frames from there on; ${shown.frames} are needed. Slow it down, or choose a nearer marker.`,
    );
  }
  const trimmed = withClip(project, clipId, (one) => ({ ...one, shown }));
  return moveClips(trimmed, [clipId], place.track.id, start, 'leave');
}
