import type { RetimeMap } from '@hastig/contract';
import { bracketedRoot, rootsInUnit } from './bezier';
import { compile, frameCount, heldFrame, type CompiledMap } from './map';

/** A stretch of output time, in output frames: `from` included, `to` not (equal for a single instant). */
interface Showing {
  from: number;
  to: number;
}

interface FrameRange {
  low: number;
  high: number;
}

// Within a span the parameters between which the position only rises or only falls.
function monotoneStretches(ready: CompiledMap, index: number): FrameRange[] {
  const v = ready.value.subarray(index * 4, index * 4 + 4);
  const position = ready.map.spans[index]!.of === 'position';
  const turns = rootsInUnit(position ? [v[1]!, 2 * v[2]!, 3 * v[3]!, 0] : [v[0]!, v[1]!, v[2]!, v[3]!]);
  const stops = [0, ...turns, 1];
  return stops.slice(1).map((high, i) => ({ low: stops[i]!, high }));
}

const positionOf = (ready: CompiledMap, index: number, u: number): number => {
  const p = ready.travel;
  let value = 0;
  for (let power = 6; power >= 0; power--) value = value * u + p[index * 7 + power]!;
  return ready.positions[index]! + value;
};

function timeOf(ready: CompiledMap, index: number, u: number): number {
  const a = index * 3;
  const s = ((ready.time[a + 2]! * u + ready.time[a + 1]!) * u + ready.time[a]!) * u;
  return ready.times[index]! + s * (ready.times[index + 1]! - ready.times[index]!);
}

/** Positions closer than this (source frames) are the same for the inverse. */
const POSITION_EPSILON = 1e-9;

/**
 * Every output time at which the source stands exactly at `position`, in order: the inverse of the map.
 *
 * @param position source frames, real
 * @returns single instants (`from === to`), and whole stretches where the source is frozen there
 */
export function timesAt(map: RetimeMap, position: number): Showing[] {
  const ready = compile(map);
  const found: Showing[] = [];
  const add = (from: number, to: number): void => {
    const last = found.at(-1);
    if (last && from - last.to < 1e-7) last.to = Math.max(last.to, to);
    else found.push({ from, to });
  };
  for (let index = 0; index < ready.count; index++) {
    for (const { low, high } of monotoneStretches(ready, index)) {
      const start = positionOf(ready, index, low) - position;
      const end = positionOf(ready, index, high) - position;
      if (Math.abs(start) < POSITION_EPSILON && Math.abs(end) < POSITION_EPSILON) {
        add(timeOf(ready, index, low), timeOf(ready, index, high));
      } else if (Math.abs(start) < POSITION_EPSILON) {
        add(timeOf(ready, index, low), timeOf(ready, index, low));
      } else if (Math.abs(end) < POSITION_EPSILON) {
        add(timeOf(ready, index, high), timeOf(ready, index, high));
      } else {
        const u = bracketedRoot((at) => positionOf(ready, index, at) - position, low, high);
        if (u !== undefined) add(timeOf(ready, index, u), timeOf(ready, index, u));
      }
    }
  }
  return found;
}

/** Every run of whole output frames that show source frame `frame` (clamped as the picture is), in order. */
export function showingsOf(map: RetimeMap, frame: number): Showing[] {
  const ready = compile(map);
  const runs: Showing[] = [];
  const total = frameCount(map);
  for (let n = 0; n < total; n++) {
    if (heldFrame(ready, n) !== frame) continue;
    const last = runs.at(-1);
    if (last && last.to === n) last.to = n + 1;
    else runs.push({ from: n, to: n + 1 });
  }
  return runs;
}
