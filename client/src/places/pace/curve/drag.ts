import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  drawSpeeds,
  holdPins,
  moveKey,
  moveKeys,
  moveRamp,
  moveRampEdge,
  rampAtKey,
  realFrameFloor,
  setHandles,
  setKeySpeeds,
  setPartSpeed,
  widenRamp,
  type Keeps,
} from '@hastig/core';
import simplify from 'simplify-js';
import { frameToX, speedToY, xToFrame, yToSpeed, type CurveView } from './scale';

/**
 * What was grabbed. `edge` −1 and 1 are the left and right edge of a ramp (or of a key, to pull a ramp out of it); a
 * `handle` is one of the two of a curved part; `keys` are several at once.
 */
export type Grab =
  | { kind: 'level'; index: number }
  | { kind: 'ramp'; index: number }
  | { kind: 'key'; index: number }
  | { kind: 'joint'; index: number; half?: 'in' | 'out' }
  | { kind: 'handle'; index: number; which: 0 | 1 }
  | { kind: 'keys'; index: number; keys: number[] }
  | { kind: 'edge'; index: number; edge: -1 | 1; of: 'ramp' | 'key' };

/** A drag from where it began, in pixels of the curve. */
export interface DragState {
  view: CurveView;
  start: { x: number; y: number };
  now: { x: number; y: number };
  /** Snapping is held off. */
  free: boolean;
  /** Only the grabbed edge of a ramp moves, not both. */
  oneSided: boolean;
  keeps: Keeps;
  /** Output frames at which a dragged key rests when near: the playhead, the marks. */
  magnets: readonly number[];
}

/** Pixels within which a dragged speed rests at a marked one. */
const SNAP = 7;

/** The speed under the finger: at real time, freeze, reverse and the floor when near, else in whole percent. */
function speedUnder(map: RetimeMap, { view, now, free }: DragState, startSpeed: number, start: number): number {
  const y = speedToY(view, startSpeed) + (now.y - start);
  const speed = Math.max(-100, Math.min(100, yToSpeed(view, y)));
  if (free) return Math.round(speed * 1000) / 1000;
  const marks = [0, 1, -1, 2, 0.5, realFrameFloor(map.sourceRate, map.outputRate)];
  const near = marks.find((mark) => Math.abs(speedToY(view, mark) - y) < SNAP);
  return near ?? Math.round(speed * 100) / 100;
}

/** The map after a drag. Throws EditRefused where it cannot go. */
export function draggedMap(map: RetimeMap, grab: Grab, drag: DragState): RetimeMap {
  return holdPins(map, dragged(map, grab, drag));
}

function dragged(map: RetimeMap, grab: Grab, drag: DragState): RetimeMap {
  const { times } = compile(map);
  const moved = xToFrame(drag.view, drag.now.x) - xToFrame(drag.view, drag.start.x);
  const toFrame = (frame: number): number => (drag.free ? frame : Math.round(frame));
  const resting = (frame: number): number => {
    const x = frameToX(drag.view, frame);
    // Where it began it is not held back.
    const near = drag.magnets.find(
      (magnet) => Math.abs(frameToX(drag.view, magnet) - x) < SNAP && Math.abs(magnet - times[grab.index]!) > 0.5,
    );
    return drag.free || near === undefined ? toFrame(frame) : near;
  };
  switch (grab.kind) {
    case 'level': {
      const span = map.spans[grab.index]!;
      const speed = speedUnder(map, drag, span.y[0], drag.start.y);
      return setPartSpeed(map, grab.index, speed, drag.keeps);
    }
    case 'key':
      return moveKey(map, grab.index, resting(times[grab.index]! + moved));
    case 'ramp':
      return moveRamp(map, grab.index, toFrame(moved));
    case 'joint':
      return draggedJoint(map, grab, drag, resting(times[grab.index]! + moved));
    case 'handle':
      return draggedHandle(map, grab, drag);
    case 'keys':
      return moveKeys(map, grab.keys, toFrame(moved));
    case 'edge': {
      if (grab.of === 'ramp' && drag.oneSided) {
        return moveRampEdge(map, grab.index, grab.edge, toFrame(map.spans[grab.index]!.frames + grab.edge * moved));
      }
      const width = grab.of === 'ramp' ? map.spans[grab.index]!.frames : 0;
      const frames = Math.max(0, toFrame(width + 2 * grab.edge * moved));
      if (grab.of === 'ramp') return widenRamp(map, grab.index, frames);
      return frames > 0 ? rampAtKey(map, grab.index, frames) : map;
    }
  }
}

/** Along or up and down: what the finger did more of. */
function isAlong({ start, now }: DragState): boolean {
  return Math.abs(now.x - start.x) > Math.abs(now.y - start.y);
}

function draggedJoint(
  map: RetimeMap,
  { index, half }: Extract<Grab, { kind: 'joint' }>,
  drag: DragState,
  at: number,
): RetimeMap {
  if (isAlong(drag)) return moveKey(map, index, at);
  const old = half === 'in' ? map.spans[index - 1]!.y[3] : map.spans[index]!.y[0];
  const start = map.spans[index]!.of === 'speed' ? old : yToSpeed(drag.view, drag.start.y);
  const speed = speedUnder(map, drag, start, drag.start.y);
  const speeds = half === undefined ? { in: speed, out: speed } : { [half]: speed };
  return setKeySpeeds(map, index, speeds, drag.keeps);
}

function draggedHandle(
  map: RetimeMap,
  { index, which }: Extract<Grab, { kind: 'handle' }>,
  drag: DragState,
): RetimeMap {
  const span = map.spans[index]!;
  const from = compile(map).times[index]!;
  const x: [number, number] = [...span.x];
  const y: [number, number] = [span.y[1], span.y[2]];
  x[which] = (xToFrame(drag.view, drag.now.x) - from) / span.frames;
  y[which] = speedUnder(map, drag, y[which], drag.start.y);
  return setHandles(map, index, x, y, drag.keeps);
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
