import type { RetimeMap } from '@hastig/contract';
import type { Ease } from '../ease';
import { compile } from '../map';
import { givingWay, landWindow } from '../land/window';
import { refuseLocked } from '../lock';
import { isConstantSpeed } from '../span';
import { easeSpan } from './joint';
import { removeKey } from './keys';
import { easeRamp } from './ramp';
import type { Keeps } from './range';
import { EditRefused } from './refused';

/** Gives every ramp among the spans that touch the chosen keys one ease. */
export function easeKeys(map: RetimeMap, keys: readonly number[], ease: Ease, keeps: Keeps): RetimeMap {
  const touched = [...new Set(keys.flatMap((key) => [key - 1, key]))].filter((index) => {
    const span = map.spans[index];
    return span?.of === 'speed' && span.y[0] !== span.y[3];
  });
  if (touched.length === 0) throw new EditRefused('keys', 'None of these keys has a ramp next to it.');
  return touched.reduce((now, index) => {
    const [before, after] = [now.spans[index - 1], now.spans[index + 1]];
    const held = before && after && isConstantSpeed(before) && isConstantSpeed(after);
    return held ? easeRamp(now, index, ease) : easeSpan(now, index, ease, keeps);
  }, map);
}

/** Removes several keys, as `removeKey` does each; the clip's two ends stay, chosen or not. */
export function removeKeys(map: RetimeMap, keys: readonly number[]): RetimeMap {
  const inner = keys.filter((key) => key > 0 && key < map.spans.length);
  if (inner.length === 0) throw new EditRefused('keys', 'The first and last keys stay at the ends of the clip.');
  // From the last one, so that the others keep their numbers.
  return inner.sort((a, b) => b - a).reduce(removeKey, map);
}

/**
 * Moves several keys in output time, each keeping its source frame. Between keys that move together nothing changes;
 * the speeds of the parts between a moving and a resting key do.
 *
 * @param keys indices as in `keysOf`; both ends of the clip stay where they are
 * @param by output frames
 */
export function moveKeys(map: RetimeMap, keys: readonly number[], by: number): RetimeMap {
  const { times, positions, ends, count } = compile(map);
  const moving = new Set(keys.filter((key) => key > 0 && key < count));
  if (moving.size === 0) throw new EditRefused('keys', 'The first and last keys stay at the ends of the clip.');
  const moved = (key: number): number => times[key]! + (moving.has(key) ? by : 0);
  const changed: number[] = [];
  const spans = map.spans.map((span, index) => {
    if (moving.has(index) === moving.has(index + 1)) return span;
    changed.push(index);
    const frames = moved(index + 1) - moved(index);
    if (!(frames > 1e-9)) throw new EditRefused('at', 'Keys can’t pass the keys beside them.');
    return { ...span, frames };
  });
  refuseLocked(changed.map((index) => map.spans[index]));
  const resized = { ...map, spans };
  const free = new Set(changed.flatMap((index) => [...givingWay(map, index, -1), ...givingWay(map, index, 1)]));
  const after = compile(resized);
  const wanted = [...free].map((index) => ({
    from: after.times[index]!,
    to: after.times[index + 1]!,
    travel: ends[index]! - positions[index]!,
  }));
  return landWindow(resized, free, mergeJoined(wanted, changed, [...free]), 'These keys can’t move that far.');
}

interface FrameRange {
  from: number;
  to: number;
  travel: number;
}

// A span that only follows joins the travel of the changed one beside it: together they pass what they passed.
function mergeJoined(wanted: readonly FrameRange[], changed: readonly number[], free: readonly number[]): FrameRange[] {
  const all = free.map((index, i) => ({ index, ...wanted[i]! })).sort((a, b) => a.index - b.index);
  const merged: (FrameRange & { last: number; solid: boolean })[] = [];
  for (const { index, from, to, travel } of all) {
    const solid = changed.includes(index);
    const before = merged.at(-1);
    if (before && before.last === index - 1 && !(before.solid && solid)) {
      Object.assign(before, { to, travel: before.travel + travel, last: index, solid: before.solid || solid });
    } else merged.push({ from, to, travel, last: index, solid });
  }
  return merged;
}
