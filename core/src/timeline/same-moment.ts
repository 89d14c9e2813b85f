import type { Clip, ProjectDocument } from '@hastig/contract';
import { heldFrame } from '../retime';
import { lookAt, mapOf } from './clip-map';
import { findSource, placeOf } from './lookup';

/** What is looked at, and frames are counted on: all of a clip's timing, a sequence or group by its id, or a source as it is. */
export type StageTarget = { clip: string } | { container: string } | { source: string };

/**
 * The frame at which the same picture stands in another view of it: on a clip and on what it lies in, on a clip and on what
 * it is made of (a source, or a group's inside), and on a group's inside and on what the group lies in.
 *
 * @param frame output frame on `from`
 * @param preferred clips by their ids; which use is meant where something is used several times
 * @returns undefined where the two have nothing to do with each other
 */
export function sameMoment(
  project: ProjectDocument,
  from: StageTarget,
  to: StageTarget,
  frame: number,
  preferred: readonly string[] = [],
): number | undefined {
  if (idOf(from) === idOf(to)) return frame;
  const clip = linkOf(project, from, to, preferred);
  if (!clip) return undefined;
  const onClip =
    'clip' in from
      ? frame
      : isMadeOf(clip, from)
        ? shownAt(project, clip, Math.floor(frame * positionsPer(project, from)))
        : inward(project, clip, frame);
  if ('clip' in to) return onClip;
  if (!isMadeOf(clip, to)) return outward(project, clip, onClip);
  return Math.floor(heldFrame(mapOf(project, clip), onClip) / positionsPer(project, to));
}

/** Positions of what a clip is made of for each frame it is looked at in. */
function positionsPer(project: ProjectDocument, target: StageTarget): number {
  const source = 'source' in target ? findSource(project, target.source) : undefined;
  return source ? lookAt(project, source).positions : 1;
}

const idOf = (target: StageTarget): string =>
  'clip' in target ? target.clip : 'container' in target ? target.container : target.source;

const isMadeOf = ({ of }: Clip, target: StageTarget): boolean =>
  ('source' in target && of.kind === 'source' && of.id === target.source) ||
  ('container' in target && of.kind === 'group' && of.id === target.container);

/** The clip over which one leads to the other. */
function linkOf(
  project: ProjectDocument,
  from: StageTarget,
  to: StageTarget,
  preferred: readonly string[],
): Clip | undefined {
  const touches = (clip: Clip, target: StageTarget): boolean =>
    ('clip' in target && target.clip === clip.id) ||
    isMadeOf(clip, target) ||
    ('container' in target && placeOf(project, clip.id)?.containerId === target.container);
  // A source is looked at for itself; where it is used on a timeline says nothing of where work goes on there.
  if (('source' in from && 'container' in to) || ('container' in from && 'source' in to)) return undefined;
  const links = project.clips.filter((clip) => placeOf(project, clip.id) && touches(clip, from) && touches(clip, to));
  return links.find(({ id }) => preferred.includes(id)) ?? links[0];
}

/** From what a clip lies in to the clip, as near as it is shown there. */
function inward(project: ProjectDocument, clip: Clip, frame: number): number {
  const place = placeOf(project, clip.id)!;
  return clip.shown.from + Math.min(Math.max(place.from, frame), place.to - 1) - place.from;
}

function outward(project: ProjectDocument, clip: Clip, frame: number): number {
  const place = placeOf(project, clip.id)!;
  return Math.min(Math.max(place.from, place.from + frame - clip.shown.from), place.to - 1);
}

/** Where a clip first shows a frame of what it is made of, or the nearest one it shows. */
function shownAt(project: ProjectDocument, clip: Clip, frame: number): number {
  const map = mapOf(project, clip);
  const end = clip.shown.from + clip.shown.frames;
  let best = clip.shown.from;
  let far = Infinity;
  for (let n = clip.shown.from; n < end && far > 0; n++) {
    const off = Math.abs(heldFrame(map, n) - frame);
    if (off < far) [best, far] = [n, off];
  }
  return best;
}
