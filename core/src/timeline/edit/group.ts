import type { Clip, Container, ProjectDocument, Track, TrackItem } from '@hastig/contract';
import { isPlain } from '../../picture';
import { isPlainSound } from '../../sound';
import { compile, constantSpan, EditRefused, isConstantSpeed } from '../../retime';
import { sameRate } from '../../time';
import { mapOf } from '../clip-map';
import { containerFrames, layoutOf, trackFrames } from '../layout';
import { findGroup, findContainer, withContainer } from '../lookup';
import { placesOf, withoutUnusedGroups } from './arrange';
import { carryUp } from './length';
import { laidAt } from './insert';
import { needClip, withItems } from './items';

/** Ids and name of a new group and of the clip that shows it. */
interface NewGroup {
  groupId: string;
  clipId: string;
  name: string;
}

/** A clip that shows all of a group at real time. */
function groupClip(project: ProjectDocument, { groupId, clipId, name }: NewGroup, frames: number): Clip {
  return {
    id: clipId,
    name,
    of: { kind: 'group', id: groupId },
    timing: { start: 0, spans: [constantSpan(1, frames)] },
    shown: { from: 0, frames },
    length: project.defaults.length,
  };
}

/**
 * Makes one item of several clips, gaps between them included: a group with a length of its own, that is retimed, turned
 * round and duplicated like any clip. Nothing that is seen or heard changes.
 *
 * @throws EditRefused where another clip lies between the chosen ones on one of their tracks
 */
export function groupClips(project: ProjectDocument, clipIds: readonly string[], made: NewGroup): ProjectDocument {
  const places = placesOf(project, clipIds);
  const { containerId, container } = places[0]!;
  const from = Math.min(...places.map((place) => place.from));
  const to = Math.max(...places.map((place) => place.to));
  const chosen = new Set(clipIds);
  const indices = [...new Set(places.map(({ trackIndex }) => trackIndex))].sort((a, b) => a - b);
  const tracks = indices.map((index) => insideOf(project, container.tracks[index]!, from, to, chosen));
  const clip = groupClip(project, made, to - from);
  const group = { id: made.groupId, name: made.name, rate: container.rate, tracks, markers: [] };
  const home = container.tracks[indices[0]!]!;
  let state: ProjectDocument = { ...project, groups: [...project.groups, group], clips: [...project.clips, clip] };
  for (const index of indices) {
    const track = container.tracks[index]!;
    state = withItems(state, containerId, track.id, (items) => {
      const left = items.map((item): TrackItem =>
        'clip' in item && chosen.has(item.clip) ? { gap: needClip(project, item.clip).clip.shown.frames } : item,
      );
      return track === home ? laidAt(state, left, from, { clip: clip.id }, to - from) : left;
    });
  }
  return state;
}

// The items of a track within a stretch, beginning at its first frame.
function insideOf(
  project: ProjectDocument,
  track: Track,
  from: number,
  to: number,
  chosen: ReadonlySet<string>,
): Track {
  const items: TrackItem[] = [];
  let at = from;
  for (const placed of layoutOf(project, track)) {
    if (!placed.clip || placed.to <= from || placed.from >= to) continue;
    if (!chosen.has(placed.clip.id)) {
      throw new EditRefused('clips', `“${placed.clip.name}” is between the selected clips. Select it too, or move it.`);
    }
    if (placed.from > at) items.push({ gap: placed.from - at });
    items.push({ clip: placed.clip.id });
    at = placed.to;
  }
  const { off: _off, ...plain } = track;
  return { ...plain, items };
}

/**
 * Lays what a group holds in the place of the clip that shows it. Only where that changes nothing: the clip shows the
 * whole group at real time, and both have the same rate.
 *
 * @param newId gives an id for each clip that comes out
 */
export function ungroup(project: ProjectDocument, clipId: string, newId: () => string): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const group = clip.of.kind === 'group' ? findGroup(project, clip.of.id) : undefined;
  if (!group) throw new EditRefused('clip', 'This clip isn’t a group.');
  const map = mapOf(project, clip);
  const frames = containerFrames(project, group);
  const plain =
    sameRate(group.rate, place.container.rate) &&
    map.start === 0 &&
    map.spans.every((span) => isConstantSpeed(span) && span.y[0] === 1 && !span.jump) &&
    clip.shown.from === 0 &&
    clip.shown.frames === frames &&
    Math.abs(compile(map).length - frames) < 1e-6;
  if (!plain) {
    throw new EditRefused(
      'clip',
      'This group is retimed, and its clips can’t keep that timing. Set the whole group to 100% first.',
    );
  }
  if (!isPlain(clip.picture)) {
    throw new EditRefused('clip', 'This group has picture settings. Reset its picture first.');
  }
  if (!isPlainSound(clip.sound)) {
    throw new EditRefused('clip', 'This group has sound settings. Reset its sound first.');
  }
  let state: ProjectDocument = withRoomAbove(project, place.containerId, place.trackIndex, group, newId);
  const container = (): Container => findContainer(state, place.containerId)!;
  group.tracks.forEach((track, index) => {
    const copies: Clip[] = [];
    const items = track.items.map((item): TrackItem => {
      if ('gap' in item) return item;
      const inside = needClip(project, item.clip).clip;
      const copy = { ...inside, id: newId(), ...(clip.muted && { muted: true }) };
      copies.push(copy);
      return { clip: copy.id };
    });
    const rest = frames - trackFrames(project, track);
    const filled = rest > 0 ? [...items, { gap: rest }] : items;
    const target = container().tracks[place.trackIndex + index]!;
    const added = { ...state, clips: [...state.clips, ...copies] };
    state = withItems(added, place.containerId, target.id, (row) =>
      target.id === place.track.id
        ? row.toSpliced(place.itemIndex, 1, ...filled)
        : inGap(added, target, row, place.from, filled, frames),
    );
  });
  // On a sound track lies nothing of a group that begins with pictures: its place there is free.
  state = withItems(state, place.containerId, place.track.id, (row) =>
    row.map((item): TrackItem => ('clip' in item && item.clip === clipId ? { gap: frames } : item)),
  );
  const without = { ...state, clips: state.clips.filter(({ id }) => id !== clipId) };
  return carryUp(project, withoutUnusedGroups(without), place.containerId);
}

// Tracks of the kinds a group has, above the one its clip lies on.
function withRoomAbove(
  project: ProjectDocument,
  containerId: string,
  trackIndex: number,
  group: Container,
  newId: () => string,
): ProjectDocument {
  return withContainer(project, containerId, (container) => {
    const tracks = container.tracks.slice();
    group.tracks.forEach(({ kind, name }, index) => {
      const at = trackIndex + index;
      if (tracks[at]?.kind !== kind) tracks.splice(at, 0, { id: newId(), kind, name, items: [] });
    });
    return { ...container, tracks };
  });
}

function inGap(
  project: ProjectDocument,
  track: Track,
  row: readonly TrackItem[],
  from: number,
  items: readonly TrackItem[],
  frames: number,
): TrackItem[] {
  const placed = layoutOf(project, { ...track, items: [...row] });
  if (placed.some(({ clip, from: start, to }) => clip && to > from && start < from + frames)) {
    throw new EditRefused('clip', `Clips on track “${track.name}” are in the way.`);
  }
  const before = placed.filter(({ to }) => to <= from).map(({ index }) => row[index]!);
  const after = placed.filter(({ from: start }) => start >= from + frames).map(({ index }) => row[index]!);
  const end = placed[before.length - 1]?.to ?? 0;
  const next = placed[placed.length - after.length]?.from ?? from + frames;
  return [...before, { gap: from - end }, ...items, { gap: next - from - frames }, ...after];
}
