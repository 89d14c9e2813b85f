import type { ProjectDocument } from '@hastig/contract';
import { markersBeside, markersCarried, type SeenMarker } from '@hastig/core';
import type { LineMoment } from '../time-view/marker-lines';

const inSet =
  (set: string | null) =>
  ({ marker }: SeenMarker): boolean =>
    set === null || (marker.set ?? '') === set;

const asLine = ({ marker, at }: SeenMarker): LineMoment => ({
  at,
  plain: marker.kind === 'downbeat' || marker.kind === undefined || marker.kind === 'hand',
});

/** The markers of footage as lines on a timeline, at its frames. Its own stand on its ruler. */
export function linesOver(project: ProjectDocument, containerId: string, set: string | null): LineMoment[] {
  return markersCarried(project, containerId).filter(inSet(set)).map(asLine);
}

/** The markers that pass while a clip is shown as lines, at its output frames. */
export function linesBeside(project: ProjectDocument, clipId: string, set: string | null): LineMoment[] {
  return markersBeside(project, clipId).filter(inSet(set)).map(asLine);
}
