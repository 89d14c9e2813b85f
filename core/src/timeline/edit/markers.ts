import { LONGEST_NAME, type Marker, type ProjectDocument, type Track } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { findContainer, withContainer } from '../lookup';

const inOrder = (markers: readonly Marker[]): Marker[] => [...markers].sort((a, b) => a.at - b.at);

function checked(marker: Marker): Marker {
  if (!Number.isInteger(marker.at) || marker.at < 0) throw new EditRefused('at', 'must be a whole frame, 0 or later');
  if ([...marker.name].length > LONGEST_NAME)
    throw new EditRefused('name', `can have at most ${LONGEST_NAME} characters`);
  return marker;
}

/** Adds markers, or gives those with the same ids another state; in order of their frames. */
export function setMarkers(project: ProjectDocument, containerId: string, markers: readonly Marker[]): ProjectDocument {
  const ids = new Set(markers.map(({ id }) => id));
  return withContainer(project, containerId, (container) => ({
    ...container,
    markers: inOrder([...container.markers.filter(({ id }) => !ids.has(id)), ...markers.map(checked)]),
  }));
}

export function removeMarkers(project: ProjectDocument, containerId: string, ids: readonly string[]): ProjectDocument {
  const gone = new Set(ids);
  return withContainer(project, containerId, (container) => ({
    ...container,
    markers: container.markers.filter(({ id }) => !gone.has(id)),
  }));
}

/** Adds an empty track: picture above the uppermost picture, sound below all others. */
export function addTrack(
  project: ProjectDocument,
  containerId: string,
  kind: Track['kind'],
  id: string,
): ProjectDocument {
  return withContainer(project, containerId, (container) => {
    const same = container.tracks.filter((track) => track.kind === kind).length;
    const name = `${kind === 'picture' ? 'Picture' : 'Sound'} ${same + 1}`;
    const track: Track = { id, kind, name, items: [] };
    const pictures = container.tracks.filter((one) => one.kind === 'picture');
    const sounds = container.tracks.filter((one) => one.kind === 'sound');
    return {
      ...container,
      tracks: kind === 'picture' ? [...pictures, track, ...sounds] : [...pictures, ...sounds, track],
    };
  });
}

/** Takes an empty track away. */
export function removeTrack(project: ProjectDocument, containerId: string, trackId: string): ProjectDocument {
  const container = findContainer(project, containerId);
  const track = container?.tracks.find(({ id }) => id === trackId);
  if (track && track.items.length > 0) throw new EditRefused('track', 'This track has clips. Remove them first.');
  if (container && container.tracks.length === 1) throw new EditRefused('track', 'The last track can’t be removed.');
  return withContainer(project, containerId, (one) => ({
    ...one,
    tracks: one.tracks.filter(({ id }) => id !== trackId),
  }));
}

/** Switches a track off, so that it is neither seen nor heard, or on again. */
export function switchTrack(
  project: ProjectDocument,
  containerId: string,
  trackId: string,
  off: boolean,
): ProjectDocument {
  return withContainer(project, containerId, (container) => ({
    ...container,
    tracks: container.tracks.map((track) => {
      if (track.id !== trackId) return track;
      const { off: _old, ...on } = track;
      return off ? { ...on, off } : on;
    }),
  }));
}
