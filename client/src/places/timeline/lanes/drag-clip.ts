import type { ProjectDocument } from '@hastig/contract';
import {
  edgesOf,
  findClip,
  markersOver,
  moveClips,
  paceClip,
  placeOf,
  reachOf,
  shownSpeed,
  trimClip,
  formatPercent,
  type RippleMode,
} from '@hastig/core';
import type { EdgeWay } from '../../../store/session-slice';
import type { TimeView } from '../../../time-view/use-time-view';
import { snapped } from './lanes-view';

/** What is being dragged on the timeline. */
export type DraggedClip =
  { what: 'clip'; clipId: string; ids: readonly string[] } | { what: 'edge'; clipId: string; side: 'start' | 'end' };

/** Where a drag has come to, and what holds for it. */
export interface DragState {
  /** Frames from where it began; real. */
  by: number;
  /** The track under the pointer. */
  trackId: string;
  view: TimeView;
  playhead: number;
  snap: boolean;
  edges: EdgeWay;
  rippleMode: RippleMode;
}

/** Pixels within which edges, markers and the playhead draw. */
const SNAP_REACH = 9;

/** The project after a drag, and what it comes to in words. */
export interface DragResult {
  project: ProjectDocument;
  words: string;
  label: string;
}

let last: { project: ProjectDocument; clipIds: readonly string[]; playhead: number; frames: number[] } | undefined;

// What is snapped to: the beginning, the playhead, and all edges but those of what is moved. The same for all of a drag.
function targets(project: ProjectDocument, clipIds: readonly string[], playhead: number): readonly number[] {
  if (last?.project === project && last.playhead === playhead && last.clipIds.join() === clipIds.join())
    return last.frames;
  const place = placeOf(project, clipIds[0]!)!;
  const own = new Set(
    clipIds.flatMap((id) => {
      const { from, to } = placeOf(project, id)!;
      return [from, to];
    }),
  );
  // Markers of footage too: a clip begins at the frame in which a beat is.
  const marked = markersOver(project, place.containerId)
    .filter(({ clipId }) => clipId !== undefined && !clipIds.includes(clipId))
    .map(({ at }) => Math.round(at));
  const frames = [...edgesOf(project, place.container).filter((edge) => !own.has(edge)), ...marked, 0, playhead];
  last = { project, clipIds, playhead, frames };
  return frames;
}

function moved(
  project: ProjectDocument,
  { clipId, ids }: Extract<DraggedClip, { what: 'clip' }>,
  state: DragState,
): DragResult {
  const places = ids.map((id) => placeOf(project, id)!);
  const first = Math.min(...places.map(({ from }) => from));
  const last = Math.max(...places.map(({ to }) => to));
  const grabbed = placeOf(project, clipId)!;
  let at = Math.round(first + state.by);
  if (state.snap) {
    const frames = targets(project, ids, state.playhead);
    const start = snapped(first + state.by, frames, state.view, SNAP_REACH);
    const end = snapped(last + state.by, frames, state.view, SNAP_REACH);
    if (start !== undefined) at = start;
    else if (end !== undefined) at = end - (last - first);
  }
  at = Math.max(0, at);
  // The track under the pointer is the grabbed clip's; the others keep their distance to it.
  const tracks = grabbed.container.tracks;
  const by = tracks.findIndex(({ id }) => id === state.trackId) - grabbed.trackIndex;
  const lowest = Math.min(...places.map(({ trackIndex }) => trackIndex));
  const target = tracks[lowest + by] ?? tracks[lowest]!;
  return {
    project: moveClips(project, ids, target.id, at, state.rippleMode),
    words: `starts at frame ${at}`,
    label: ids.length > 1 ? 'move clips' : 'move a clip',
  };
}

function resized(project: ProjectDocument, drag: Extract<DraggedClip, { what: 'edge' }>, state: DragState): DragResult {
  const { clipId, side } = drag;
  const place = placeOf(project, clipId)!;
  const { frames } = findClip(project, clipId)!.shown;
  const edge = side === 'start' ? place.from : place.to;
  const near = state.snap
    ? snapped(edge + state.by, targets(project, [clipId], state.playhead), state.view, SNAP_REACH)
    : undefined;
  const by = (near ?? Math.round(edge + state.by)) - edge;
  const more = side === 'start' ? -by : by;
  if (state.edges === 'stretch') {
    const stretched = paceClip(project, clipId, Math.max(1, frames + more));
    return {
      project: stretched,
      words: `${formatPercent(shownSpeed(stretched, clipId))}, ${Math.max(1, frames + more)} frames`,
      label: 'change a clip’s speed',
    };
  }
  const reach = reachOf(project, clipId);
  const most = side === 'start' ? reach.head : reach.tail;
  const lasts = Math.min(frames + most, Math.max(1, frames + more));
  const moves = side === 'start' ? frames - lasts : lasts - frames;
  return {
    project: moves === 0 ? project : trimClip(project, clipId, side, moves, state.rippleMode),
    words: Number.isFinite(most) ? `${lasts} frames, ${most - (lasts - frames)} left` : `${lasts} frames`,
    label: 'trim a clip',
  };
}

/** What a drag makes of the project it began with. Throws EditRefused where it cannot go. */
export function draggedClip(project: ProjectDocument, drag: DraggedClip, state: DragState): DragResult {
  return drag.what === 'clip' ? moved(project, drag, state) : resized(project, drag, state);
}
