import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  drawSpeeds,
  moveKey,
  moveRamp,
  rampAtKey,
  realFrameFloor,
  setPartSpeed,
  widenRamp,
  type Keeps,
} from '@hastig/core';
import simplify from 'simplify-js';
import { speedToY, xToFrame, yToSpeed, type CurveView } from './scale';

/** What was grabbed. `edge` −1 and 1 are the left and right edge of a ramp (or of a key, to pull a ramp out of it). */
export type Grab =
  | { kind: 'plateau'; index: number }
  | { kind: 'ramp'; index: number }
  | { kind: 'key'; index: number }
  | { kind: 'edge'; index: number; edge: -1 | 1; of: 'ramp' | 'key' };

/** A drag from where it began, in pixels of the curve. */
export interface DragState {
  view: CurveView;
  start: { x: number; y: number };
  now: { x: number; y: number };
  /** Snapping is held off. */
  free: boolean;
  keeps: Keeps;
}

/** Pixels within which a dragged speed rests at a marked one. */
const SNAP = 7;

/** The speed under the finger: at real time, freeze, reverse and the floor when near, else in whole percent. */
export function speedUnder(map: RetimeMap, { view, now, free }: DragState, startSpeed: number, start: number): number {
  const y = speedToY(view, startSpeed) + (now.y - start);
  const speed = Math.max(-100, Math.min(100, yToSpeed(view, y)));
  if (free) return Math.round(speed * 1000) / 1000;
  const marks = [0, 1, -1, 2, 0.5, realFrameFloor(map.sourceRate, map.outputRate)];
  const near = marks.find((mark) => Math.abs(speedToY(view, mark) - y) < SNAP);
  return near ?? Math.round(speed * 100) / 100;
}

/** The map after a drag. Throws EditRefused where it cannot go. */
export function draggedMap(map: RetimeMap, grab: Grab, drag: DragState): RetimeMap {
  const { times } = compile(map);
  const moved = xToFrame(drag.view, drag.now.x) - xToFrame(drag.view, drag.start.x);
  const whole = (frame: number): number => (drag.free ? frame : Math.round(frame));
  switch (grab.kind) {
    case 'plateau': {
      const span = map.spans[grab.index]!;
      const speed = speedUnder(map, drag, span.y[0], drag.start.y);
      return setPartSpeed(map, grab.index, speed, drag.keeps);
    }
    case 'key':
      return moveKey(map, grab.index, whole(times[grab.index]! + moved));
    case 'ramp':
      return moveRamp(map, grab.index, whole(moved));
    case 'edge': {
      const width = grab.of === 'ramp' ? map.spans[grab.index]!.frames : 0;
      const frames = Math.max(0, whole(width + 2 * grab.edge * moved));
      if (grab.of === 'ramp') return widenRamp(map, grab.index, frames);
      return frames > 0 ? rampAtKey(map, grab.index, frames) : map;
    }
  }
}

/** Pixels that a drawn line may differ from the hand's. */
const DRAW_TOLERANCE = 3;

/** The map with the speeds that were drawn by hand; undefined while the stroke is too short to mean anything. */
export function drawnMap(
  map: RetimeMap,
  view: CurveView,
  stroke: readonly { x: number; y: number }[],
  keeps: Keeps,
): RetimeMap | undefined {
  const rightwards = stroke.at(-1) && stroke[0]!.x > stroke.at(-1)!.x ? [...stroke].reverse() : [...stroke];
  // What the hand did twice at one place counts the last time.
  const rising = rightwards.filter((point, i) => rightwards.slice(i + 1).every((later) => later.x > point.x));
  const { length } = compile(map);
  const points = new Map<number, number>();
  for (const { x, y } of simplify(rising, DRAW_TOLERANCE, true)) {
    const frame = Math.min(Math.round(length), Math.max(0, Math.round(xToFrame(view, x))));
    points.set(Math.min(frame, length), Math.round(yToSpeed(view, y) * 100) / 100);
  }
  if (points.size < 2) return undefined;
  return drawSpeeds(
    map,
    [...points].map(([at, speed]) => ({ at, speed })),
    keeps,
  );
}
