import { MOST_POSITIONS, type Marker, type ProjectDocument, type Source } from '@hastig/contract';
import { fileCountOf } from '../counting';
import { fieldsOf, framesPerFileFrame } from '../fields';
import { EditRefused } from '../retime';
import { rateToNumber } from '../time';
import { sourceFrames } from '../timeline/clip-map';
import { findSource } from '../timeline/lookup';
import { withSourceMarkers } from './sources';

// Of the file as it is, whatever rate its frames are read at: its sound is found by it.
function positionsPerSecond(source: Source): number {
  return rateToNumber(fileCountOf(source).rate) * framesPerFileFrame(fieldsOf(source));
}

/** Seconds of the file at which a source's position stands. */
export function positionSeconds(source: Source, position: number): number {
  return position / positionsPerSecond(source);
}

/** The source's position (real) at so many seconds of its file. */
export function secondsPosition(source: Source, seconds: number): number {
  return seconds * positionsPerSecond(source);
}

const inSet = ({ set = '' }: Marker, wanted: string | undefined): boolean => wanted === undefined || set === wanted;

function need(project: ProjectDocument, sourceId: string): Source {
  const source = findSource(project, sourceId);
  if (!source) throw new EditRefused('source', 'This source isn’t in the project.');
  return source;
}

/** Adds markers to a source, or gives those with the same ids another state. */
export function addSourceMarkers(
  project: ProjectDocument,
  sourceId: string,
  markers: readonly Marker[],
): ProjectDocument {
  const source = need(project, sourceId);
  const frames = sourceFrames(source);
  for (const { at } of markers) {
    if (!(at >= 0 && at <= Math.min(frames, MOST_POSITIONS)))
      throw new EditRefused('at', 'A marker must be within the source.');
  }
  const ids = new Set(markers.map(({ id }) => id));
  const others = (source.markers ?? []).filter(({ id }) => !ids.has(id));
  return withSourceMarkers(project, sourceId, [...others, ...markers]);
}

/** Puts markers in the place of all of a set. */
export function replaceSet(
  project: ProjectDocument,
  sourceId: string,
  set: string,
  markers: readonly Marker[],
): ProjectDocument {
  const others = (need(project, sourceId).markers ?? []).filter((marker) => !inSet(marker, set));
  return addSourceMarkers(withSourceMarkers(project, sourceId, others), sourceId, markers);
}

/** Takes markers of a source away. */
export function removeSourceMarkers(
  project: ProjectDocument,
  sourceId: string,
  ids: readonly string[],
): ProjectDocument {
  const gone = new Set(ids);
  const left = (need(project, sourceId).markers ?? []).filter(({ id }) => !gone.has(id));
  return withSourceMarkers(project, sourceId, left);
}

/**
 * Moves all markers of a set by seconds of the content, later or earlier; what would leave the source falls away.
 *
 * @param set its name, '' for those without one; all markers where it is not given
 */
export function nudgeMarkers(
  project: ProjectDocument,
  sourceId: string,
  set: string | undefined,
  seconds: number,
): ProjectDocument {
  const source = need(project, sourceId);
  const by = secondsPosition(source, seconds);
  const frames = sourceFrames(source);
  const moved = (source.markers ?? [])
    .map((marker) => (inSet(marker, set) ? { ...marker, at: marker.at + by } : marker))
    .filter(({ at }) => at >= 0 && at <= frames);
  return withSourceMarkers(project, sourceId, moved);
}
