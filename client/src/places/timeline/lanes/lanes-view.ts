import type { Container, ProjectDocument, Track } from '@hastig/contract';
import { layoutOf, type PlacedItem } from '@hastig/core';
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

/** Lanes from top to bottom: the uppermost picture first, sound beneath all pictures. */
export function lanesOf({ tracks }: Pick<Container, 'tracks'>, wide: boolean): Lane[] {
  const order = [
    ...tracks
      .map((track, index) => ({ track, index }))
      .filter(({ track }) => track.kind === 'picture')
      .reverse(),
    ...tracks.map((track, index) => ({ track, index })).filter(({ track }) => track.kind === 'sound'),
  ];
  let top = BETWEEN;
  return order.map(({ track, index }) => {
    const height = heights[track.kind][wide ? 'wide' : 'phone'];
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

/** How many clips lie on a track, and which of them this is, from 1. */
export function numberOf({ items }: Track, clipId: string): string {
  const clips = items.filter((item) => 'clip' in item);
  return `${clips.findIndex(({ clip }) => clip === clipId) + 1} of ${clips.length}`;
}

/** What of a track is in sight, with its pixels. */
export interface SeenItem extends PlacedItem {
  x: number;
  width: number;
}

export function itemsInSight(project: ProjectDocument, track: Track, view: TimeView): SeenItem[] {
  return layoutOf(project, track)
    .filter(({ from, to }) => to > view.from && from < view.to)
    .map((item) => {
      const x = frameToX(view, item.from);
      return { ...item, x, width: frameToX(view, item.to) - x };
    });
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
