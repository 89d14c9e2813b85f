import type { Container, ProjectDocument, Track } from '@hastig/contract';
import { firstAfter, layoutOf, type PlacedItem } from '@hastig/core';
import { frameToX, type TimeView } from '../../../time-view/use-time-view';

/** A track as it is seen: where it lies from top to bottom, in pixels, and its index in the sequence or group. */
export interface Lane {
  track: Track;
  index: number;
  top: number;
  height: number;
}

/** Pixels of lanes: for a thumb, and for the desk. */
const heights = { picture: { phone: 60, wide: 68 }, sound: { phone: 40, wide: 44 } };
const BETWEEN = 6;

/** Lanes grow with the room they have up to so much of their least height; beyond it, pictures only get larger. */
const MOST_GROWTH = 2;

/** The tracks as they lie from top to bottom, with their indices: the uppermost picture first, sound beneath all pictures. */
export function tracksInOrder({ tracks }: Pick<Container, 'tracks'>): { track: Track; index: number }[] {
  const all = tracks.map((track, index) => ({ track, index }));
  return [
    ...all.filter(({ track }) => track.kind === 'picture').reverse(),
    ...all.filter(({ track }) => track.kind === 'sound'),
  ];
}

/**
 * Lanes from top to bottom.
 *
 * @param room pixels that there are for all of them; where it is less than they need, they take what they need
 */
export function lanesOf(container: Pick<Container, 'tracks'>, wide: boolean, room = 0): Lane[] {
  const order = tracksInOrder(container);
  const least = order.map(({ track }) => heights[track.kind][wide ? 'wide' : 'phone']);
  const between = (order.length + 1) * BETWEEN;
  const growth = (room - between) / least.reduce((sum, height) => sum + height, 0);
  const factor = Math.max(1, Math.min(MOST_GROWTH, growth));
  let top = BETWEEN;
  return order.map(({ track, index }, row) => {
    const height = Math.floor(least[row]! * factor);
    const lane = { track, index, top, height };
    top += height + BETWEEN;
    return lane;
  });
}

/** Pixels that all lanes take together. */
export function lanesHeight(lanes: readonly Lane[]): number {
  const last = lanes.at(-1);
  return last ? last.top + last.height + BETWEEN : 0;
}

/** The lane at a height, the nearest one where there is none. */
export function laneAt(lanes: readonly Lane[], y: number): Lane {
  return lanes.reduce((best, lane) => (farFrom(lane, y) < farFrom(best, y) ? lane : best));
}

const farFrom = ({ top, height }: Lane, y: number): number => Math.max(0, top - y, y - top - height);

/** What of a track is in sight, with its pixels. */
export interface SeenItem extends PlacedItem {
  x: number;
  width: number;
}

/** Neighbours on a track that are too narrow to be told apart, as one. */
export interface Crowd {
  x: number;
  width: number;
  from: number;
  to: number;
  clips: number;
}

/** Pixels from which a clip or a gap can be pointed at by itself. */
const LEAST_WIDTH = 8;

export function itemsInSight(project: ProjectDocument, track: Track, view: TimeView): SeenItem[] {
  const layout = layoutOf(project, track);
  const seen: SeenItem[] = [];
  for (let index = firstAfter(layout, view.from); index < layout.length && layout[index]!.from < view.to; index++) {
    const item = layout[index]!;
    const x = frameToX(view, item.from);
    seen.push({ ...item, x, width: frameToX(view, item.to) - x });
  }
  return seen;
}

/** How many clips lie on a track. */
export function clipCount(project: ProjectDocument, track: Track): number {
  return layoutOf(project, track).at(-1)?.number ?? 0;
}

/**
 * Tells apart what can be pointed at by itself and what only stands as a crowd: however much there is, no more than there are
 * pixels for.
 *
 * @param always ids of clips that stand by themselves however narrow they are
 */
export function apart(
  items: readonly SeenItem[],
  always: ReadonlySet<string>,
): { single: SeenItem[]; crowds: Crowd[] } {
  const single: SeenItem[] = [];
  const crowds: Crowd[] = [];
  let last: Crowd | undefined;
  for (const item of items) {
    const { clip, x, width, from, to } = item;
    if (width >= LEAST_WIDTH || (clip && always.has(clip.id))) {
      single.push(item);
      last = undefined;
      continue;
    }
    // A new one only where there is room for it.
    if (!last || (last.width >= 4 * LEAST_WIDTH && x + width > last.x + 6 * LEAST_WIDTH)) {
      last = { x, width: 0, from, to, clips: 0 };
      crowds.push(last);
    }
    Object.assign(last, { width: x + width - last.x, to, clips: last.clips + (clip ? 1 : 0) });
  }
  // A lone gap of some frames is nobody's business at this size.
  return { single, crowds: crowds.filter(({ clips }) => clips > 0) };
}

/**
 * The nearest of some frames, if it is near enough on the screen.
 *
 * @param frames rising or not
 * @param reach pixels
 */
export function snapped(frame: number, frames: readonly number[], view: TimeView, reach: number): number | undefined {
  const far = (reach * (view.to - view.from)) / view.width;
  let best: number | undefined;
  for (const one of frames) {
    if (Math.abs(one - frame) <= Math.min(far, best === undefined ? Infinity : Math.abs(best - frame))) best = one;
  }
  return best;
}

/** Where something lies on its lane. */
export interface LaneBox {
  /** Pixels, and frames. */
  x: number;
  width: number;
  from: number;
  to: number;
  top: number;
  height: number;
}
