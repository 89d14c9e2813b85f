import type { RetimeMap, Span } from '@hastig/contract';
import { refuseLocked } from '../lock';
import { compile, TIME_EPSILON } from '../map';
import { constantSpan, isConstantSpeed, spanTravel, scaleSpan, withEndSpeeds } from '../span';
import { splitAt, splitSpan } from '../split';
import { normalize, withJump } from './range';
import { EditRefused } from './refused';

/** Adds a key at an output time; every position stays. Where a key already is, the map comes back as it was. */
export function addKey(map: RetimeMap, at: number): RetimeMap {
  const { length } = compile(map);
  if (!(at >= 0 && at <= length)) throw new EditRefused('at', 'The key is outside the clip.');
  return splitAt(map, at).map;
}

function checkInnerKey(map: RetimeMap, index: number): void {
  if (index > 0 && index < map.spans.length) return;
  throw new EditRefused('key', 'The first and last keys stay at the ends of the clip.');
}

/**
 * Removes the key before span `index`: one span goes through both outer ends, with the speeds it had there and
 * the same travel.
 */
export function removeKey(map: RetimeMap, index: number): RetimeMap {
  checkInnerKey(map, index);
  const [before, after] = [map.spans[index - 1]!, map.spans[index]!];
  refuseLocked([before, after]);
  const spans = map.spans.toSpliced(index - 1, 2, withJump(throughBoth(map, before, after), before.jump ?? 0));
  return normalize(map, map.start, spans);
}

function throughBoth(map: RetimeMap, before: Span, after: Span): Span {
  const { ratio } = compile(map);
  const frames = before.frames + after.frames;
  const travel = spanTravel(before, ratio) + (after.jump ?? 0) + spanTravel(after, ratio);
  if (before.of === 'position' || after.of === 'position') {
    // Handles keep the slopes at both outer ends: a third of the span at each end's speed.
    const slope = (span: Span, end: 0 | 3): number => endSlope(span, end, ratio) * (frames / 3);
    return { of: 'position', frames, x: [1 / 3, 2 / 3], y: [0, slope(before, 0), travel - slope(after, 3), travel] };
  }
  const [from, to] = [before.y[0], after.y[3]];
  if (isConstantSpeed(before) && isConstantSpeed(after) && from === to && !after.jump)
    return constantSpan(from, frames);
  // With even handles the four values weigh a quarter each, so the two inner ones carry the rest of the travel.
  const inner = ((4 * travel) / (ratio * frames) - from - to) / 2;
  return { of: 'speed', frames, x: [1 / 3, 2 / 3], y: [from, inner, inner, to] };
}

function endSlope(span: Span, end: 0 | 3, ratio: number): number {
  if (span.of === 'speed') return ratio * span.y[end];
  const [x, dy] = end === 0 ? [span.x[0], span.y[1] - span.y[0]] : [1 - span.x[1], span.y[3] - span.y[2]];
  return x > TIME_EPSILON ? dy / (x * span.frames) : span.y[3] / span.frames;
}

/**
 * Moves the key before span `index` to another output time; it keeps its source frame, and the lengths and
 * speeds of its two neighbours change. A ramp joined to a neighbouring constant-speed part follows its speed.
 *
 * @param at output frames, strictly between the keys on both sides
 */
export function moveKey(map: RetimeMap, index: number, at: number): RetimeMap {
  checkInnerKey(map, index);
  const { times, ratio } = compile(map);
  const [low, high] = [times[index - 1]!, times[index + 1]!];
  if (!(at > low + TIME_EPSILON && at < high - TIME_EPSILON)) {
    throw new EditRefused('at', 'A key can’t pass the keys beside it.');
  }
  refuseLocked([map.spans[index - 1], map.spans[index]]);
  const spans = map.spans.slice();
  resize(spans, index - 1, -1, at - low, ratio);
  resize(spans, index, 1, high - at, ratio);
  return normalize(map, map.start, spans);
}

/** Gives a span another length and its old travel, together with the ramp joined to its outer side. */
function resize(spans: Span[], index: number, side: -1 | 1, frames: number, ratio: number): void {
  const span = spans[index]!;
  const outer = spans[index + side];
  const joined =
    outer?.of === 'speed' &&
    isConstantSpeed(span) &&
    !isConstantSpeed(outer) &&
    !outer.locked &&
    outer.y[side === -1 ? 3 : 0] === span.y[0] &&
    !(side === -1 ? span : outer).jump;
  if (!joined) {
    spans[index] = { ...scaleSpan(span, frames / span.frames), frames };
    return;
  }
  const lead = (speed: number): Span =>
    side === -1 ? withEndSpeeds(outer, outer.y[0], speed) : withEndSpeeds(outer, speed, outer.y[3]);
  // Travel is linear in the speed, so two values of it give the one that keeps the travel.
  const travel = (speed: number): number => spanTravel(lead(speed), ratio) + ratio * frames * speed;
  const wanted = spanTravel(outer, ratio) + spanTravel(span, ratio);
  const speed = (wanted - travel(0)) / (travel(1) - travel(0));
  spans[index] = { ...span, ...constantSpan(speed, frames) };
  spans[index + side] = lead(speed);
}

/**
 * Moves a ramp between two constant-speed parts in output time. Its length stays, and its middle keeps its source frame; the
 * constant-speed parts' lengths and speeds change, and ramps joined to their outer sides follow.
 *
 * @param index of the ramp in `map.spans`
 * @param by output frames; positive is later
 */
export function moveRamp(map: RetimeMap, index: number, by: number): RetimeMap {
  const [before, change, after] = [map.spans[index - 1], map.spans[index], map.spans[index + 1]];
  if (!before || !change || !after || !isConstantSpeed(before) || !isConstantSpeed(after) || change.of !== 'speed') {
    throw new EditRefused('span', 'Only a ramp between two constant speeds can be moved.');
  }
  refuseLocked([before, change, after]);
  const frames = [before.frames + by, after.frames - by] as const;
  if (!(frames[0] > TIME_EPSILON && frames[1] > TIME_EPSILON)) {
    throw new EditRefused('at', 'A ramp can’t pass the keys beside it.');
  }
  const { ratio } = compile(map);
  const [oldFrom, oldTo] = [before.y[0], after.y[0]];
  const [outerLeft, outerRight] = [map.spans[index - 2], map.spans[index + 2]];
  const leftJoined =
    outerLeft?.of === 'speed' && !isConstantSpeed(outerLeft) && outerLeft.y[3] === oldFrom && !before.jump;
  const rightJoined =
    outerRight?.of === 'speed' && !isConstantSpeed(outerRight) && outerRight.y[0] === oldTo && !outerRight.jump;
  const build = (from: number, to: number): Span[] => [
    ...(outerLeft ? [leftJoined ? withEndSpeeds(outerLeft, outerLeft.y[0], from) : outerLeft] : []),
    { ...before, ...constantSpan(from, frames[0]) },
    withEndSpeeds(change, from, to),
    { ...after, ...constantSpan(to, frames[1]) },
    ...(outerRight ? [rightJoined ? withEndSpeeds(outerRight, to, outerRight.y[3]) : outerRight] : []),
  ];
  const middle = (spans: readonly Span[]): [number, number] => halves(spans, outerLeft ? 2 : 1, ratio);
  const wanted = halves(
    [...(outerLeft ? [outerLeft] : []), before, change, after, ...(outerRight ? [outerRight] : [])],
    outerLeft ? 2 : 1,
    ratio,
  );
  // Both travels are linear in the two speeds: three values give the 2 × 2 system.
  const base = middle(build(0, 0));
  const byFrom = middle(build(1, 0)).map((value, i) => value - base[i]!) as [number, number];
  const byTo = middle(build(0, 1)).map((value, i) => value - base[i]!) as [number, number];
  const [p, q] = [wanted[0] - base[0], wanted[1] - base[1]];
  const det = byFrom[0] * byTo[1] - byFrom[1] * byTo[0];
  if (Math.abs(det) < 1e-12) throw new EditRefused('at', 'The ramp can’t move without changing which frames it shows.');
  const from = (p * byTo[1] - q * byTo[0]) / det;
  const to = (byFrom[0] * q - byFrom[1] * p) / det;
  const first = index - (outerLeft ? 2 : 1);
  const spans = map.spans.toSpliced(first, build(from, to).length, ...build(from, to));
  return normalize(map, map.start, spans);
}

/** Travel before and after the middle of the ramp at `index` (in `spans`, without jumps). */
function halves(spans: readonly Span[], index: number, ratio: number): [number, number] {
  const total = spans.reduce((sum, span) => sum + spanTravel(span, ratio), 0);
  const ramp = spans[index]!;
  const [first] = splitSpan(ramp, ramp.frames / 2);
  const half = first.reduce((sum, span) => sum + spanTravel(span, ratio), 0);
  const before = spans.slice(0, index).reduce((sum, span) => sum + spanTravel(span, ratio), 0) + half;
  return [before, total - before];
}

/** A key: the joint between two spans, or an end of the map. */
export interface Key {
  /** The span after it; `spans.length` for the last. */
  index: number;
  /** Output frame (real). */
  output: number;
  /** Source position (real); after the jump where there is one. */
  source: number;
  /** Speed coming in; undefined at the first key. */
  speedIn: number | undefined;
  /** Speed going out; undefined at the last key. */
  speedOut: number | undefined;
  /** Source frames by which the source jumps here. */
  jump: number;
}

/** The key before span `index`; at the count, the last. */
export function keyAt(map: RetimeMap, index: number): Key {
  const { times, positions } = compile(map);
  const [before, after] = [map.spans[index - 1], map.spans[index]];
  return {
    index,
    output: times[index]!,
    source: positions[index]!,
    speedIn: before && endSpeed(before, 3, map),
    speedOut: after && endSpeed(after, 0, map),
    jump: after?.jump ?? 0,
  };
}

/** All keys of a map in order, both ends included. */
export function keysOf(map: RetimeMap): Key[] {
  return Array.from({ length: map.spans.length + 1 }, (_, index) => keyAt(map, index));
}

function endSpeed(span: Span, end: 0 | 3, map: RetimeMap): number {
  return span.of === 'speed' ? span.y[end] : endSlope(span, end, compile(map).ratio) / compile(map).ratio;
}
