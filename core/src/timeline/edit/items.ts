import type { Clip, ProjectDocument, Track, TrackItem } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { findClip, findContainer, placeOf, withContainer, type ClipPlace } from '../lookup';

/** A row without empty gaps, without two gaps side by side, and without a gap after the last clip. */
export function normalizeItems(items: readonly TrackItem[]): TrackItem[] {
  const normalized: TrackItem[] = [];
  for (const item of items) {
    const last = normalized.at(-1);
    if (!('gap' in item)) normalized.push(item);
    else if (item.gap > 0) {
      if (last && 'gap' in last) normalized[normalized.length - 1] = { gap: last.gap + item.gap };
      else normalized.push(item);
    }
  }
  if (normalized.length > 0 && 'gap' in normalized.at(-1)!) normalized.pop();
  return normalized;
}

/** The project with another row of items on a track, put in order. */
export function withItems(
  project: ProjectDocument,
  containerId: string,
  trackId: string,
  change: (items: TrackItem[]) => TrackItem[],
): ProjectDocument {
  return withContainer(project, containerId, (container) => ({
    ...container,
    tracks: container.tracks.map((track) =>
      track.id === trackId ? { ...track, items: normalizeItems(change(track.items)) } : track,
    ),
  }));
}

export function withClip(project: ProjectDocument, clipId: string, change: (clip: Clip) => Clip): ProjectDocument {
  return { ...project, clips: project.clips.map((clip) => (clip.id === clipId ? change(clip) : clip)) };
}

/** The clip and where it lies. Throws EditRefused for one that is not there. */
export function needClip(project: ProjectDocument, clipId: string): { clip: Clip; place: ClipPlace } {
  const [clip, place] = [findClip(project, clipId), placeOf(project, clipId)];
  if (!clip || !place) throw new EditRefused('clip', 'This clip is no longer in the project.');
  return { clip, place };
}

/** A track of a sequence or group. Throws EditRefused for one that is not there. */
export function needTrack(project: ProjectDocument, containerId: string, trackId: string): Track {
  const track = findContainer(project, containerId)?.tracks.find(({ id }) => id === trackId);
  if (!track) throw new EditRefused('track', 'This track no longer exists.');
  return track;
}

/** Throws EditRefused unless it is a whole number of frames of at least `least`. */
export function needFrames(field: string, frames: number, least: number): number {
  if (!Number.isInteger(frames) || frames < least) {
    throw new EditRefused(field, `must be a whole number of frames of at least ${least}`);
  }
  return frames;
}
