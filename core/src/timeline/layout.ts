import type { Clip, Container, ProjectDocument, Track } from '@hastig/contract';
import { lookUp } from './lookup';

/** Something on a track and the frames it covers, `from` included, `to` not. `clip` is undefined for a gap. */
export interface PlacedItem {
  index: number;
  from: number;
  to: number;
  clip: Clip | undefined;
}

/** All that lies on a track, in order. */
export function layoutOf(project: ProjectDocument, track: Track): PlacedItem[] {
  const { clips } = lookUp(project);
  let at = 0;
  return track.items.map((item, index) => {
    const clip = 'clip' in item ? clips.get(item.clip) : undefined;
    const from = at;
    at += 'gap' in item ? item.gap : (clip?.shown.frames ?? 0);
    return { index, from, to: at, clip };
  });
}

/** Frames from the start to the end of the last clip on a track. */
export function trackFrames(project: ProjectDocument, track: Track): number {
  return layoutOf(project, track).findLast(({ clip }) => clip)?.to ?? 0;
}

/** Frames from the start of a sequence or group to the end of its last clip. */
export function containerFrames(project: ProjectDocument, container: Container): number {
  return Math.max(0, ...container.tracks.map((track) => trackFrames(project, track)));
}

/** The clip that lies at a frame of a track, if there is one. */
export function clipAt(project: ProjectDocument, track: Track, frame: number): PlacedItem | undefined {
  return layoutOf(project, track).find(({ clip, from, to }) => clip && frame >= from && frame < to);
}

/** Where things begin and end in a sequence or group, rising and without repeats: what is snapped to. */
export function edgesOf(project: ProjectDocument, container: Container): number[] {
  const edges = new Set<number>([0]);
  for (const track of container.tracks) {
    for (const { clip, from, to } of layoutOf(project, track)) {
      if (clip) edges.add(from).add(to);
    }
  }
  for (const { at } of container.markers) edges.add(at);
  return [...edges].sort((a, b) => a - b);
}
