import type { Clip, Container, Marker, ProjectDocument, RetimeMap } from '@hastig/contract';
import { timesAt } from '../retime';
import { mapOf } from './clip-map';
import { layoutOf } from './layout';
import { findClip, findContainer, findSource, lookUp, placeOf } from './lookup';

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

const throughClip = new WeakMap<RetimeMap, { inside: unknown; seen: readonly SeenMarker[] }>();

/** The markers of what a clip is made of, at all times of its timing at which they pass; in order. */
export function contentMarkers(project: ProjectDocument, clip: Clip): readonly SeenMarker[] {
  const { of } = clip;
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  const inside = of.kind === 'group' ? markersOver(project, of.id) : source?.markers;
  if (!inside || inside.length === 0) return [];
  const map = mapOf(project, clip);
  // Two clips may share a timing: whose markers these are is added by whoever asks.
  let known = throughClip.get(map);
  if (known?.inside !== inside) {
    const own = source
      ? source.markers!.map((marker) => ownMarker(marker, source.id))
      : (inside as readonly SeenMarker[]);
    const seen = inOrder(own.flatMap((one) => timesAt(map, one.at).map(({ from }) => ({ ...one, at: from }))));
    known = { inside, seen };
    throughClip.set(map, known);
  }
  return known.seen.map((one) => ({ ...one, clipId: clip.id }));
}

const ownMarker = (marker: Marker, sourceId: string | undefined): SeenMarker => ({
  marker,
  sourceId,
  clipId: undefined,
  at: marker.at,
});

interface Carried {
  clips: unknown;
  sources: unknown;
  groups: unknown;
  /** Those that clips show, and all. */
  carried: readonly SeenMarker[];
  seen: readonly SeenMarker[] | undefined;
}

const marked = new WeakMap<ProjectDocument['sources'], ReadonlySet<string>>();

// The sources that have markers at all: of thousands of clips most need not be looked into.
function markedSources({ sources }: ProjectDocument): ReadonlySet<string> {
  let ids = marked.get(sources);
  if (!ids) {
    ids = new Set(sources.flatMap(({ id, markers }) => (markers?.length ? [id] : [])));
    marked.set(sources, ids);
  }
  return ids;
}

// By all that they are made of: none of it is ever changed in place.
const overContainers = new WeakMap<Container, Carried>();

function overContainer(project: ProjectDocument, container: Container): Carried {
  const { clips, sources, groups } = lookUp(project);
  const known = overContainers.get(container);
  if (known?.clips === clips && known.sources === sources && known.groups === groups) return known;
  const withMarkers = markedSources(project);
  const carried = container.tracks
    .filter(({ off }) => !off)
    .flatMap((track) => layoutOf(project, track))
    .flatMap(({ clip, from }) => {
      if (!clip || (clip.of.kind === 'source' && !withMarkers.has(clip.of.id))) return [];
      const { from: first, frames } = clip.shown;
      return contentMarkers(project, clip)
        .filter(({ at }) => at >= first - 1e-9 && at < first + frames - 1e-9)
        .map((one) => ({ ...one, at: one.at - first + from }));
    });
  const made = { clips, sources, groups, carried: inOrder(carried), seen: undefined };
  overContainers.set(container, made);
  return made;
}

/** The markers that the clips of a sequence or group show; at its frames (real), in order. */
export function markersCarried(project: ProjectDocument, containerId: string): readonly SeenMarker[] {
  const container = findContainer(project, containerId);
  return container ? overContainer(project, container).carried : [];
}

/** All markers of a sequence or group, its own and those that its clips show; at its frames (real), in order. */
export function markersOver(project: ProjectDocument, containerId: string): readonly SeenMarker[] {
  const container = findContainer(project, containerId);
  if (!container) return [];
  const over = overContainer(project, container);
  over.seen ??= inOrder([...container.markers.map((marker) => ownMarker(marker, undefined)), ...over.carried]);
  return over.seen;
}

/**
 * The markers that pass while a clip is shown, of all that lies beside it, such as the beats of music under it: at its own output
 * times, in order. Those of the clip itself are among them.
 */
export function markersBeside(project: ProjectDocument, clipId: string): readonly SeenMarker[] {
  const place = placeOf(project, clipId);
  const clip = place && findClip(project, clipId);
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
