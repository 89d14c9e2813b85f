import type { Clip, ProjectDocument, Track, TrackItem } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { footageKind } from '../clip-map';
import { layoutOf, trackFrames } from '../layout';
import { holdsGroup } from '../held-groups';
import { findContainer, SEQUENCE } from '../lookup';
import { needFrames, needTrack, normalizeItems, withItems } from './items';
import { addTrack } from './markers';

/**
 * A row of items with something laid at a frame. Where there is a gap it takes the gap's place as far as it goes; what
 * then still lies in its way moves on. Inside another item, `at` is moved to that item's nearer edge.
 */
export function laidAt(
  project: ProjectDocument,
  row: readonly TrackItem[],
  at: number,
  laid: TrackItem,
  frames: number,
): TrackItem[] {
  const items = normalizeItems(row);
  const placed = layoutOf(project, { id: '', kind: 'picture', name: '', items });
  const end = placed.at(-1)?.to ?? 0;
  if (at >= end) return [...items, { gap: at - end }, laid];
  const under = placed.find(({ from, to }) => at >= from && at < to)!;
  const [before, after] = [items.slice(0, under.index), items.slice(under.index + 1)];
  if (under.clip) {
    return at - under.from < under.to - at
      ? [...before, laid, items[under.index]!, ...after]
      : [...before, items[under.index]!, ...laidAfter(after, laid, frames)];
  }
  return [...before, { gap: at - under.from }, ...laidAfter([{ gap: under.to - at }, ...after], laid, frames)];
}

// At the head of a row: a gap there gives way.
function laidAfter(row: readonly TrackItem[], laid: TrackItem, frames: number): TrackItem[] {
  const [first, ...rest] = row;
  return first && 'gap' in first ? [laid, { gap: first.gap - Math.min(first.gap, frames) }, ...rest] : [laid, ...row];
}

/** Throws EditRefused where a clip of a group would come to lie inside that very group, at any depth. */
function refuseLoop(project: ProjectDocument, containerId: string, of: Clip['of']): void {
  if (of.kind !== 'group' || containerId === SEQUENCE) return;
  if (holdsGroup(project, of.id, containerId)) {
    throw new EditRefused('clip', 'A group can’t contain itself.');
  }
}

/** The kind of track a clip lies on unless told otherwise: sound alone on a sound track, all else on a picture track. */
export function trackKindOf(project: ProjectDocument, clip: Pick<Clip, 'of'>): Track['kind'] {
  return footageKind(project, clip) === 'sound' ? 'sound' : 'picture';
}

/** Throws EditRefused for sound alone on a picture track, and for a still on a sound track. */
export function needFitting(project: ProjectDocument, { kind }: Pick<Track, 'kind'>, clip: Pick<Clip, 'of'>): void {
  const footage = footageKind(project, clip);
  if (footage === 'sound' && kind === 'picture') {
    throw new EditRefused('track', 'Sound goes on a sound track.');
  }
  if ((footage === 'still' || footage === 'stills') && kind === 'sound') {
    throw new EditRefused('track', 'A still has no sound: it goes on a picture track.');
  }
}

/**
 * Lays a new clip on a track.
 *
 * @param at frame of the sequence or group; see `laidAt` for what gives way
 */
export function insertClip(
  project: ProjectDocument,
  containerId: string,
  trackId: string,
  at: number,
  clip: Clip,
): ProjectDocument {
  needFitting(project, needTrack(project, containerId, trackId), clip);
  needFrames('at', at, 0);
  refuseLoop(project, containerId, clip.of);
  const added = { ...project, clips: [...project.clips, clip] };
  return withItems(added, containerId, trackId, (items) =>
    laidAt(added, items, at, { clip: clip.id }, clip.shown.frames),
  );
}

/** Lays a new clip at the end of the first track of its kind; where there is none, on a new one. */
export function appendClip(project: ProjectDocument, containerId: string, clip: Clip): ProjectDocument {
  const [state, track] = withTrackFor(project, containerId, trackKindOf(project, clip));
  return insertClip(state, containerId, track.id, trackFrames(state, track), clip);
}

/**
 * Lays a new clip on a sound track that is free there, so that nothing gives way; where none is, on a new one.
 *
 * @param at frame (whole) of the sequence or group
 * @param newTrack id of the track that may be added
 * @param wish the track to take if it is free there; the first that is otherwise
 */
export function layOnSound(
  project: ProjectDocument,
  containerId: string,
  at: number,
  clip: Clip,
  newTrack: string,
  wish?: string,
): ProjectDocument {
  const end = at + clip.shown.frames;
  const free = findContainer(project, containerId)?.tracks.filter(
    (track) =>
      track.kind === 'sound' &&
      layoutOf(project, track).every((item) => !item.clip || item.to <= at || item.from >= end),
  );
  const track = free?.find(({ id }) => id === wish) ?? free?.[0];
  const roomy = track ? project : addTrack(project, containerId, 'sound', newTrack);
  return insertClip(roomy, containerId, track?.id ?? newTrack, at, clip);
}

/** The project and the first track of a kind in it, added where there was none. */
function withTrackFor(project: ProjectDocument, containerId: string, kind: Track['kind']): [ProjectDocument, Track] {
  const tracks = findContainer(project, containerId)?.tracks ?? [];
  const there = tracks.find((track) => track.kind === kind);
  if (there) return [project, there];
  const ids = new Set(tracks.map(({ id }) => id));
  let number = 1;
  while (ids.has(`${kind}-${number}`)) number++;
  const id = `${kind}-${number}`;
  const added = addTrack(project, containerId, kind, id);
  return [added, needTrack(added, containerId, id)];
}
