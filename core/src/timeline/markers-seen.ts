import type { Clip, Marker, ProjectDocument } from '@hastig/contract';
import { timesAt } from '../retime';
import { mapOf } from './clip-map';
import { layoutOf } from './layout';
import { findContainer, findSource, placeOf } from './lookup';

/** A marker where it is seen or heard: of a source or a group, through a clip's timing, or of the timeline itself. */
export interface SeenMarker {
  marker: Marker;
  /** The source it belongs to; undefined for one of a sequence or group. */
  sourceId: string | undefined;
  /** The clip that shows it where it is seen; undefined for one of the sequence or group that is looked at. */
  clipId: string | undefined;
  /** Output frame (real) of what is looked at. */
  at: number;
}

const inOrder = (markers: SeenMarker[]): readonly SeenMarker[] => markers.sort((a, b) => a.at - b.at);

/** One result for each thing of each project; neither is ever changed in place. */
function perProject<K extends object, T>(make: (project: ProjectDocument, key: K) => T) {
  const known = new WeakMap<ProjectDocument, WeakMap<K, T>>();
  return (project: ProjectDocument, key: K): T => {
    const made = known.get(project) ?? new WeakMap<K, T>();
    known.set(project, made);
    let found = made.get(key);
    if (found === undefined) made.set(key, (found = make(project, key)));
    return found;
  };
}

/** The markers of what a clip is made of, at all times of its timing at which they pass; in order. */
export const contentMarkers = perProject((project, clip: Clip): readonly SeenMarker[] => {
  const { of } = clip;
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  const inside: readonly SeenMarker[] = source
    ? (source.markers ?? []).map((marker) => ({ marker, sourceId: source.id, clipId: clip.id, at: marker.at }))
    : of.kind === 'group'
      ? markersOver(project, of.id)
      : [];
  if (inside.length === 0) return [];
  const map = mapOf(project, clip);
  return inOrder(
    inside.flatMap((one) => timesAt(map, one.at).map(({ from }) => ({ ...one, clipId: clip.id, at: from }))),
  );
});

const overContainer = perProject((project, container: object): readonly SeenMarker[] => {
  const { tracks, markers } = container as NonNullable<ReturnType<typeof findContainer>>;
  const own = markers.map((marker): SeenMarker => ({ marker, sourceId: undefined, clipId: undefined, at: marker.at }));
  const carried = tracks
    .filter(({ off }) => !off)
    .flatMap((track) => layoutOf(project, track))
    .flatMap(({ clip, from }) => {
      if (!clip) return [];
      const { from: first, frames } = clip.shown;
      return contentMarkers(project, clip)
        .filter(({ at }) => at >= first - 1e-9 && at < first + frames - 1e-9)
        .map((one) => ({ ...one, at: one.at - first + from }));
    });
  return inOrder([...own, ...carried]);
});

/** All markers of a sequence or group, its own and those that its clips show; at its frames (real), in order. */
export function markersOver(project: ProjectDocument, containerId: string): readonly SeenMarker[] {
  const container = findContainer(project, containerId);
  return container ? overContainer(project, container) : [];
}

/**
 * The markers that pass while a clip is shown, of all that lies beside it, such as the beats of music under it: at its own output
 * times, in order. Those of the clip itself are among them.
 */
export function markersBeside(project: ProjectDocument, clipId: string): readonly SeenMarker[] {
  const place = placeOf(project, clipId);
  const clip = place && project.clips.find(({ id }) => id === clipId);
  if (!place || !clip) return [];
  return markersOver(project, place.containerId)
    .filter(({ at }) => at >= place.from - 1e-9 && at < place.to - 1e-9)
    .map((one) => ({ ...one, at: one.at - place.from + clip.shown.from }));
}

/** The names of the sets that markers belong to, in order of the alphabet; those without one are '' and come first. */
export function setsOf(markers: readonly SeenMarker[]): string[] {
  return [...new Set(markers.map(({ marker }) => marker.set ?? ''))].sort((a, b) => a.localeCompare(b));
}

/** Output times of markers of one set, or of all where none is named; each once. */
export function timesOfMarkers(markers: readonly SeenMarker[], set?: string): number[] {
  const times = markers.filter(({ marker }) => set === undefined || (marker.set ?? '') === set).map(({ at }) => at);
  return times.filter((at, index) => index === 0 || at - times[index - 1]! > 1e-6);
}
