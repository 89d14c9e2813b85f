import type { Clip, ProjectDocument, TrackItem } from '@hastig/contract';
import { kindOf } from '../../counting';
import { constantSpan, EditRefused } from '../../retime';
import { rateRatio } from '../../time';
import { findClip, findContainer, findSource, type ClipPlace } from '../lookup';
import { footageKind, sourceFrames, sourceRate } from '../clip-map';
import { carryUp } from './length';
import { laidAt, needFitting } from './insert';
import { needClip, needFrames, needTrack, withClip, withItems } from './items';
import type { RippleMode } from './trim';

/** The places of some clips, in the order they lie in; all in one sequence or group. */
export function placesOf(project: ProjectDocument, clipIds: readonly string[]): (ClipPlace & { clip: Clip })[] {
  const places = clipIds.map((id) => {
    const { clip, place } = needClip(project, id);
    return { ...place, clip };
  });
  if (places.length === 0) throw new EditRefused('clips', 'Select a clip first.');
  if (new Set(places.map(({ containerId }) => containerId)).size > 1) {
    throw new EditRefused('clips', 'The selected clips are in different groups.');
  }
  return places.sort((a, b) => a.trackIndex - b.trackIndex || a.from - b.from);
}

// Clips taken from their tracks, gaps in their places.
function lifted(
  project: ProjectDocument,
  places: readonly (ClipPlace & { clip: Clip })[],
  rippleMode: RippleMode,
): ProjectDocument {
  const gone = new Map(places.map(({ clip }) => [clip.id, clip.shown.frames]));
  const { containerId } = places[0]!;
  return [...new Set(places.map(({ track }) => track.id))].reduce(
    (state, trackId) =>
      withItems(state, containerId, trackId, (items) =>
        items.flatMap((item): TrackItem[] => {
          const frames = 'clip' in item ? gone.get(item.clip) : undefined;
          return frames === undefined ? [item] : rippleMode === 'leave' ? [{ gap: frames }] : [];
        }),
      ),
    project,
  );
}

/** Takes clips out, and their groups with them where no other clip shows those. */
export function removeClips(
  project: ProjectDocument,
  clipIds: readonly string[],
  rippleMode: RippleMode,
): ProjectDocument {
  const places = placesOf(project, clipIds);
  const gone = new Set(clipIds);
  const without = lifted(project, places, rippleMode);
  const left = { ...without, clips: without.clips.filter(({ id }) => !gone.has(id)) };
  return carryUp(project, withoutUnusedGroups(left), places[0]!.containerId);
}

/** The project without groups that no clip shows, and without the clips inside those. */
export function withoutUnusedGroups(project: ProjectDocument): ProjectDocument {
  const used = new Set(project.clips.flatMap(({ of }) => (of.kind === 'group' ? [of.id] : [])));
  const unused = project.groups.filter(({ id }) => !used.has(id));
  if (unused.length === 0) return project;
  const inside = new Set(
    unused.flatMap(({ tracks }) =>
      tracks.flatMap(({ items }) => items.flatMap((item) => ('clip' in item ? [item.clip] : []))),
    ),
  );
  return withoutUnusedGroups({
    ...project,
    groups: project.groups.filter(({ id }) => used.has(id)),
    clips: project.clips.filter(({ id }) => !inside.has(id)),
  });
}

/**
 * Moves clips together to a frame of a track, keeping their distances to each other.
 *
 * @param at frame at which the first of them will begin; see `laidAt` for what gives way
 * @param room what becomes of the places they leave
 */
export function moveClips(
  project: ProjectDocument,
  clipIds: readonly string[],
  trackId: string,
  at: number,
  rippleMode: RippleMode,
): ProjectDocument {
  const places = placesOf(project, clipIds);
  const { containerId } = places[0]!;
  const target = needTrack(project, containerId, trackId);
  needFrames('at', at, 0);
  const tracks = findContainer(project, containerId)!.tracks;
  const by = tracks.indexOf(target) - places[0]!.trackIndex;
  const first = Math.min(...places.map(({ from }) => from));
  const kinds = places.map(({ trackIndex }) => tracks[trackIndex + by]);
  if (kinds.some((track) => !track))
    throw new EditRefused('track', 'There aren’t enough tracks there for all of them.');
  let state = lifted(project, places, rippleMode);
  for (const { clip, trackIndex, from } of places) {
    const to = tracks[trackIndex + by]!;
    const kind = tracks[trackIndex]!.kind;
    if (kind !== to.kind) {
      throw new EditRefused('track', `A clip from a ${kind} track can’t go on a ${to.kind} track.`);
    }
    state = withItems(state, containerId, to.id, (items) =>
      laidAt(state, items, at + from - first, { clip: clip.id }, clip.shown.frames),
    );
  }
  return carryUp(project, state, containerId);
}

/**
 * Lays copies of clips behind the last of them. A copy of a group's clip shows the same group.
 *
 * @param newIds of the copies, in the order of `clipIds`
 */
export function duplicateClips(
  project: ProjectDocument,
  clipIds: readonly string[],
  newIds: readonly string[],
): ProjectDocument {
  const places = placesOf(project, clipIds);
  const { containerId } = places[0]!;
  const first = Math.min(...places.map(({ from }) => from));
  const end = Math.max(...places.map(({ to }) => to));
  const idOf = new Map(clipIds.map((id, index) => [id, newIds[index]!]));
  let state = project;
  for (const { clip, track, from } of places) {
    const copy = { ...clip, id: idOf.get(clip.id)! };
    const added = { ...state, clips: [...state.clips, copy] };
    state = withItems(added, containerId, track.id, (items) =>
      laidAt(added, items, end + from - first, { clip: copy.id }, copy.shown.frames),
    );
  }
  return carryUp(project, state, containerId);
}

/**
 * Gives a clip another source, its timing staying as it is. Where the new source is shorter, the clip may run out of it;
 * that is told as always. A still in place of a moving picture is held as long as the clip; a moving picture in place of a
 * still begins at its first frame, at real time.
 */
export function replaceFootage(project: ProjectDocument, clipId: string, sourceId: string): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source || sourceFrames(source) < 1) throw new EditRefused('source', 'This source isn’t in the project.');
  const { clip, place } = needClip(project, clipId);
  const of: Clip['of'] = { kind: 'source', id: sourceId };
  needFitting(project, place.track, { of });
  if (place.track.kind === 'sound' && !source.facts.audio) {
    throw new EditRefused('source', 'This source has no sound.');
  }
  const name =
    clip.of.kind === 'source' && clip.name === stem(findSource(project, clip.of.id)?.name)
      ? stem(source.name)!
      : clip.name;
  const [was, is] = [footageKind(project, clip), kindOf(source.facts)];
  const replaced = withClip(project, clipId, (one) => ({ ...one, of, name }));
  if ((was === 'still') === (is === 'still')) return replaced;
  const { from, frames } = clip.shown;
  const rate = place.container.rate;
  const real = sourceFrames(source) / rateRatio(sourceRate(source), rate);
  const length = is === 'still' ? from + frames : real;
  const shown =
    is === 'still' ? clip.shown : { from: 0, frames: Math.min(frames, Math.max(1, Math.ceil(real - 1e-6))) };
  const timing = { start: 0, spans: [constantSpan(is === 'still' ? 0 : 1, length)] };
  return carryUp(
    project,
    withClip(replaced, clipId, (one) => ({ ...one, timing, shown })),
    place.containerId,
  );
}

const stem = (name: string | undefined): string | undefined => name?.replace(/\.[^.]+$/, '');

/** Lays a copy of what a clip holds inside on a group of its own, so that editing it changes no other clip. */
export function ownGroup(
  project: ProjectDocument,
  clipId: string,
  groupId: string,
  newId: () => string,
): ProjectDocument {
  const { clip } = needClip(project, clipId);
  const group = project.groups.find(({ id }) => clip.of.kind === 'group' && id === clip.of.id);
  if (!group) throw new EditRefused('clip', 'This clip isn’t a group.');
  const copies: Clip[] = [];
  const copyItem = (item: TrackItem): TrackItem => {
    if ('gap' in item) return item;
    const copy = { ...findClip(project, item.clip)!, id: newId() };
    copies.push(copy);
    return { clip: copy.id };
  };
  const tracks = group.tracks.map((track) => ({ ...track, items: track.items.map(copyItem) }));
  const added = {
    ...project,
    groups: [...project.groups, { ...group, id: groupId, tracks }],
    clips: [...project.clips, ...copies],
  };
  return withClip(added, clipId, (one) => ({ ...one, of: { kind: 'group', id: groupId } }));
}
