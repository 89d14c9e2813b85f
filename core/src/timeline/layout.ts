import type { Clip, Container, ProjectDocument, Track } from '@hastig/contract';
import { lookUp } from './lookup';

/** Something on a track and the frames it covers, `from` included, `to` not. `clip` is undefined for a gap. */
export interface PlacedItem {
  index: number;
  from: number;
  to: number;
  clip: Clip | undefined;
  /** Which of the track's clips it is, from 1; for a gap, the one before it. */
  number: number;
}

// By the clips and the track it was made of: neither is ever changed in place.
const layouts = new WeakMap<ReadonlyMap<string, Clip>, WeakMap<Track, readonly PlacedItem[]>>();

/** All that lies on a track, in order. */
export function layoutOf(project: ProjectDocument, track: Track): readonly PlacedItem[] {
  const { clips } = lookUp(project);
  const made = layouts.get(clips) ?? new WeakMap<Track, readonly PlacedItem[]>();
  layouts.set(clips, made);
  let layout = made.get(track);
  if (!layout) {
    let at = 0;
    let number = 0;
    layout = track.items.map((item, index) => {
      const clip = 'clip' in item ? clips.get(item.clip) : undefined;
      const from = at;
      at += 'gap' in item ? item.gap : (clip?.shown.frames ?? 0);
      if (clip) number++;
      return { index, from, to: at, clip, number };
    });
    made.set(track, layout);
  }
  return layout;
}

/** Index of the first item of a layout that ends after a frame; the layout's length where none does. */
export function firstAfter(layout: readonly PlacedItem[], frame: number): number {
  let [low, high] = [0, layout.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (layout[middle]!.to > frame) high = middle;
    else low = middle + 1;
  }
  return low;
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
  const layout = layoutOf(project, track);
  const item = layout[firstAfter(layout, frame)];
  return item?.clip && frame >= item.from ? item : undefined;
}

/** Where things begin and end in a sequence or group, rising and without repeats: what is snapped to. */
export function edgesOf(project: ProjectDocument, container: Container): readonly number[] {
  const known = allEdges.get(container);
  const { clips } = lookUp(project);
  if (known?.clips === clips) return known.edges;
  const edges = new Set<number>([0]);
  for (const track of container.tracks) {
    for (const { clip, from, to } of layoutOf(project, track)) {
      if (clip) edges.add(from).add(to);
    }
  }
  for (const { at } of container.markers) edges.add(at);
  const rising = [...edges].sort((a, b) => a - b);
  allEdges.set(container, { clips, edges: rising });
  return rising;
}

const allEdges = new WeakMap<Container, { clips: ReadonlyMap<string, Clip>; edges: readonly number[] }>();
