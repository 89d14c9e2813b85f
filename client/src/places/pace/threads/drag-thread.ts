import type { RetimeMap } from '@hastig/contract';
import {
  addKey,
  compile,
  EditRefused,
  holdPins,
  keyNear,
  moveKey,
  pin,
  pinAt,
  positionAt,
  slipKey,
  unpin,
} from '@hastig/core';
import { frameToX } from '../../../time-view/use-time-view';
import { sourceToX, threadFrames, type ThreadsView } from '../../../time-view/threads-view';

/** Which end of a thread was grabbed: the lower one moves its frame in time, the upper one slips the content. */
export interface GrabbedThread {
  end: 'time' | 'content';
  /** Output frame of the thread. */
  output: number;
}

/** Pixels within which a thread is meant. */
const REACH = 16;

/** The thread nearest to a place between the strips; the lower half is its lower end. */
export function threadAt(map: RetimeMap, view: ThreadsView, at: { x: number; y: number }): GrabbedThread | undefined {
  const [top, bottom] = [view.strip, view.height - view.strip];
  if (at.y < top || at.y > bottom) return undefined;
  const share = (at.y - top) / (bottom - top);
  const ready = compile(map);
  const keys = [...ready.times].filter((time) => time >= view.time.from && time <= view.time.to);
  let best: { output: number; off: number } | undefined;
  const look = (output: number, favour: number): void => {
    const [x0, x1] = [sourceToX(view, positionAt(ready, output)), frameToX(view.time, output)];
    const off = Math.abs(x0 + (x1 - x0) * share - at.x) - favour;
    if (off < (best?.off ?? REACH)) best = { output, off };
  };
  for (const output of threadFrames(view.time, ready.length)) look(output, 0);
  // A key's own thread is meant before one beside it.
  if (keys.length < 400) for (const output of keys) look(output, 5);
  return best && { end: share < 0.5 ? 'content' : 'time', output: best.output };
}

/**
 * The map after a thread's end was dragged.
 *
 * @param by output frames for the lower end, source frames for the upper one
 */
export function draggedThread(map: RetimeMap, { end, output }: GrabbedThread, by: number): RetimeMap {
  const near = keyNear(map, output);
  const at = near === undefined ? output : compile(map).times[near]!;
  const pinned = pinAt(map, at);
  const loose = pinned ? unpin(map, at) : map;
  const keyed = near === undefined ? addKey(loose, at) : loose;
  const index = keyNear(keyed, at)!;
  if (end === 'content') {
    const source = positionAt(keyed, at) + by;
    if (pinned) return pin(loose, at, source);
    return holdPins(map, slipKey(keyed, index, source));
  }
  if (index === 0 || index === keyed.spans.length) {
    throw new EditRefused('key', 'The first and last frames can’t move in time. Use Fit instead.');
  }
  const moved = moveKey(keyed, index, at + by);
  return pinned ? pin(moved, at + by, pinned.source) : holdPins(map, moved);
}

// A thread beside a key is the key's.
function keyedTime(map: RetimeMap, output: number): number {
  const near = keyNear(map, output);
  return near === undefined ? output : compile(map).times[near]!;
}

/** Whether the frame that a thread shows is pinned to its time. */
export function isPinned(map: RetimeMap, output: number): boolean {
  return pinAt(map, keyedTime(map, output)) !== undefined;
}

/** Pins the frame that a thread shows to its time, or lets it go again. */
export function pinnedThread(map: RetimeMap, output: number): RetimeMap {
  const at = keyedTime(map, output);
  return pinAt(map, at) ? unpin(map, at) : pin(map, at);
}
