import type { RetimeMap } from '@hastig/contract';
import { compile, holdPins, moveKey, setHandles, slipKey } from '@hastig/core';
import { frameToX, xToFrame, type TimeView } from '../../../time-view/use-time-view';

/** A part of the course of positions on the screen. */
export interface PositionView extends TimeView {
  /** Source positions at the lower and upper edge. */
  low: number;
  high: number;
  height: number;
}

const PADDING = { top: 12, bottom: 24 };

export function positionToY(view: PositionView, position: number): number {
  const pixels = Math.max(1, view.height - PADDING.top - PADDING.bottom);
  return PADDING.top + ((view.high - position) / (view.high - view.low)) * pixels;
}

export function yToPosition(view: PositionView, y: number): number {
  const pixels = Math.max(1, view.height - PADDING.top - PADDING.bottom);
  return view.high - ((y - PADDING.top) / pixels) * (view.high - view.low);
}

/** The source positions a map comes to, with a little room around them. */
export function positionsInSight(map: RetimeMap): { low: number; high: number } {
  const { positions, ends } = compile(map);
  let [low, high] = [Infinity, -Infinity];
  for (const values of [positions, ends]) {
    for (const value of values) [low, high] = [Math.min(low, value), Math.max(high, value)];
  }
  const room = Math.max(1, (high - low) * 0.08);
  return { low: low - room, high: high + room };
}

/** A key, or one of the two handles of a part. */
export type PositionGrab = { kind: 'key'; index: number } | { kind: 'handle'; index: number; which: 0 | 1 };

/** A drag from where it began, in pixels. */
interface PositionDrag {
  view: PositionView;
  start: { x: number; y: number };
  now: { x: number; y: number };
  snap: boolean;
}

/**
 * The map after a drag among the positions. A key goes along in time, keeping its source frame, or up and down, keeping its
 * time: the way it was dragged further. A handle goes where the finger is.
 */
export function draggedPosition(map: RetimeMap, grab: PositionGrab, drag: PositionDrag): RetimeMap {
  const { view, start, now, snap } = drag;
  const { times, positions } = compile(map);
  const toFrame = (value: number): number => (snap ? Math.round(value) : value);
  if (grab.kind === 'handle') {
    const span = map.spans[grab.index]!;
    const x: [number, number] = [...span.x];
    const y: [number, number] = [span.y[1], span.y[2]];
    x[grab.which] = (xToFrame(view, now.x) - times[grab.index]!) / span.frames;
    y[grab.which] = yToPosition(view, now.y) - positions[grab.index]!;
    return holdPins(map, setHandles(map, grab.index, x, y, 'length'));
  }
  if (Math.abs(now.x - start.x) > Math.abs(now.y - start.y)) {
    const at = times[grab.index]! + xToFrame(view, now.x) - xToFrame(view, start.x);
    return holdPins(map, moveKey(map, grab.index, toFrame(at)));
  }
  const source = positions[grab.index]! + yToPosition(view, now.y) - yToPosition(view, start.y);
  return holdPins(map, slipKey(map, grab.index, toFrame(source)));
}

/** Where the two handles of a position span stand. */
export function handlePlace(map: RetimeMap, view: PositionView, index: number, which: 0 | 1): { x: number; y: number } {
  const { times, positions } = compile(map);
  const span = map.spans[index]!;
  return {
    x: frameToX(view, times[index]! + span.x[which] * span.frames),
    y: positionToY(view, positions[index]! + span.y[which + 1]!),
  };
}
