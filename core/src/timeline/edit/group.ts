import type { Clip, Container, ProjectDocument, Track, TrackItem } from '@hastig/contract';
import { doNothing } from '../../effects';
import { saysNothing } from '../../exposure';
import { isPlain } from '../../picture';
import { isPlainSound } from '../../sound';
import { compile, constantSpan, EditRefused, isConstantSpeed } from '../../retime';
import { sameRate } from '../../time';
import { mapOf } from '../clip-map';
import { containerFrames, layoutOf, trackFrames } from '../layout';
import { findGroup, findContainer, withContainer, type ClipPlace } from '../lookup';
import { placesOf, withoutUnusedGroups } from './arrange';
import { alike, refuseBetween, refuseCross, regrouped, ungrouped } from './group-tracks';
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
 * @throws EditRefused where another clip lies between the chosen ones, and where what their tracks do to them cannot be kept
 */
export function groupClips(project: ProjectDocument, clipIds: readonly string[], made: NewGroup): ProjectDocument {
  const places = placesOf(project, clipIds);
  const { containerId, container } = places[0]!;
  const from = Math.min(...places.map((place) => place.from));
  const to = Math.max(...places.map((place) => place.to));
  const chosen = new Set(clipIds);
  const indices = [...new Set(places.map(({ trackIndex }) => trackIndex))].sort((a, b) => a - b);
  const involved = indices.map((index) => container.tracks[index]!);
  const { home, inside } = regrouped(container, involved);
  refuseBetween(project, container, chosen, container.tracks.indexOf(home));
  refuseCross(project, involved, chosen);
  // What is off lies past the film's end, and in a group that is seen it would be a part of the film.
  const lit = { ...container, tracks: container.tracks.filter(({ off }) => !off) };
  if (!home.off && to > containerFrames(project, lit))
    throw new EditRefused(
      'clips',
      'A clip on a track that is off would make the film longer. Leave it out of the group.',
    );
  const tracks = involved.map((track) => ({
    ...inside.get(track.id)!,
    items: insideOf(project, track, from, to, chosen),
  }));
  const clip = groupClip(project, made, to - from);
  const group = { id: made.groupId, name: made.name, rate: container.rate, tracks, markers: [] };
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
): TrackItem[] {
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
  return items;
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
    throw new EditRefused('clip', 'This group is framed. Reset its framing first.');
  }
  if (!saysNothing(clip.exposures)) {
    throw new EditRefused('clip', 'This group has exposures of its own. Remove them in Picture first.');
  }
  if (!doNothing(clip.effects)) {
    throw new EditRefused('clip', 'This group has effects of its own. Remove them in Picture first.');
  }
  if (!isPlainSound(clip.sound)) {
    throw new EditRefused('clip', 'This group has sound settings. Reset its sound first.');
  }
  refuseTurns(project, place, clip);
  const rows = withRoomAbove(project, place, group, newId);
  let state: ProjectDocument = rows.project;
  const container = (): Container => findContainer(state, place.containerId)!;
  group.tracks.forEach((track, index) => {
    const copies: Clip[] = [];
    const items = track.items.map((item, number): TrackItem => {
      if ('gap' in item) return item;
      const inside = needClip(project, item.clip).clip;
      const before = track.items[number - 1];
      // What begins in the group took turns with nothing, and doesn't with what lies before it outside.
      const alone = !before || 'gap' in before;
      const { cross: _cross, ...sound } = inside.sound ?? {};
      const copy = {
        ...inside,
        id: newId(),
        ...(clip.muted && { muted: true }),
        ...(alone && inside.sound && { sound: sound as typeof inside.sound }),
      };
      copies.push(copy);
      return { clip: copy.id };
    });
    const rest = frames - trackFrames(project, track);
    const filled = rest > 0 ? [...items, { gap: rest }] : items;
    const target = container().tracks.find(({ id }) => id === rows.trackIds[index])!;
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

// A clip after the group that takes turns with it would take turns with one clip of it.
function refuseTurns(project: ProjectDocument, { track, itemIndex }: ClipPlace, clip: Clip): void {
  const after = track.items[itemIndex + 1];
  const next = after && 'clip' in after ? needClip(project, after.clip).clip : undefined;
  if (next?.sound?.cross)
    throw new EditRefused('clip', `“${clip.name}” and “${next.name}” are crossfaded. Remove the crossfade first.`);
}

// The tracks that a group's own come to lie on: its clip's track and those above it, where they have the kind, and are seen and heard
// as the group's tracks were in it; new ones between them elsewhere.
function withRoomAbove(
  project: ProjectDocument,
  { containerId, container, track: home, trackIndex }: ClipPlace,
  group: Container,
  newId: () => string,
): { project: ProjectDocument; trackIds: string[] } {
  const tracks = container.tracks.slice();
  const trackIds = group.tracks.map((track, index) => {
    const at = trackIndex + index;
    const settings = ungrouped(track, home);
    const there = tracks[at];
    if (there?.kind === track.kind && alike(there, settings)) return there.id;
    const made: Track = { id: newId(), kind: track.kind, name: track.name, items: [], ...settings };
    tracks.splice(at, 0, made);
    return made.id;
  });
  return { project: withContainer(project, containerId, (one) => ({ ...one, tracks })), trackIds };
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
