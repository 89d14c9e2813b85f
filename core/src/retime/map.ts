import type { RetimeMap, Span } from '@hastig/contract';
import { rateRatio } from '../time';
import { isLinearTime, solveTime, timeCoefficients, valueCoefficients } from './bezier';
import { isConstantSpeed } from './span';

/** Added before rounding down, so that a position a rounding error short of a frame still is that frame. */
export const HELD_EPSILON = 1e-6;

/** Joints closer than this (output frames) are one joint. */
export const TIME_EPSILON = 1e-9;

const CONSTANT = 0;
const SPEED = 1;
const POSITION = 2;

/**
 * A map made ready for look-ups: where each span starts in output and source, and its polynomials.
 * Arrays are indexed by span; `times` and `count` positions include the end.
 */
export interface CompiledMap {
  readonly map: RetimeMap;
  /** Source frames per output frame at real time. */
  readonly ratio: number;
  readonly count: number;
  /** Length in output frames (real). */
  readonly length: number;
  /** Output time of each joint; `count + 1` of them. */
  readonly times: Float64Array;
  /** Source position at each span's start, after its jump; then the position at the end. */
  readonly positions: Float64Array;
  /** Source position at each span's end, before the next one's jump. */
  readonly ends: Float64Array;
  /** Source frames each span passes, without its jump. */
  readonly passed: Float64Array;
  readonly kinds: Uint8Array;
  readonly linear: Uint8Array;
  /** a1…a3 of each span's time polynomial. */
  readonly time: Float64Array;
  /** Value polynomial of each span, 4 coefficients. */
  readonly value: Float64Array;
  /** Position from the span's start, in source frames, by powers 0…6 of u. */
  readonly travel: Float64Array;
}

const compiled = new WeakMap<RetimeMap, CompiledMap>();

/** The look-up form of a map; made once for each map object (maps are never changed in place). */
export function compile(map: RetimeMap): CompiledMap {
  let ready = compiled.get(map);
  if (!ready) {
    ready = build(map);
    compiled.set(map, ready);
  }
  return ready;
}

/** Maps with fewer spans than this are made ready from nothing: that is quicker than comparing. */
const WORTH_COMPARING = 32;

// The maps made ready last: one as an edit makes it, and one as it is kept. An edit keeps most of a map's spans, the very
// objects, at its beginning and its end; what they come to is taken over from here instead of being worked out again.
let latest: CompiledMap[] = [];
const MODELS = 2;

function build(map: RetimeMap): CompiledMap {
  const count = map.spans.length;
  const ratio = rateRatio(map.sourceRate, map.outputRate);
  const ready = {
    times: new Float64Array(count + 1),
    positions: new Float64Array(count + 1),
    ends: new Float64Array(count),
    passed: new Float64Array(count),
    kinds: new Uint8Array(count),
    linear: new Uint8Array(count),
    time: new Float64Array(count * 3),
    value: new Float64Array(count * 4),
    travel: new Float64Array(count * 7),
  };
  const models = count >= WORTH_COMPARING ? latest.filter((one) => one.ratio === ratio) : [];
  const shared = models.map((one) => ({ model: one, ...sameEnds(one.map.spans, map.spans) }));
  const { model, head, tail } = shared.find((one) => one.head + one.tail > 0) ?? { model: undefined, head: 0, tail: 0 };
  if (model) {
    copySpans(model, ready, 0, 0, head);
    copySpans(model, ready, model.count - tail, count - tail, tail);
  }
  for (let index = head; index < count - tail; index++) writeSpan(ready, index, map.spans[index]!, ratio);
  let at = 0;
  let position = map.start;
  for (let index = 0; index < count; index++) {
    const { jump, frames } = map.spans[index]!;
    if (jump !== undefined) position += jump;
    ready.times[index] = at;
    ready.positions[index] = position;
    at += frames;
    position += ready.passed[index]!;
    ready.ends[index] = position;
  }
  ready.times[count] = at;
  ready.positions[count] = position;
  const done = { map, ratio, count, length: at, ...ready };
  if (count >= WORTH_COMPARING) latest = [done, ...latest.filter((one) => one !== model)].slice(0, MODELS);
  return done;
}

/** How many spans two lists share, as the same objects, at their beginning and at their end. */
function sameEnds(a: readonly Span[], b: readonly Span[]): { head: number; tail: number } {
  const most = Math.min(a.length, b.length);
  let head = 0;
  while (head < most && a[head] === b[head]) head++;
  let tail = 0;
  while (tail < most - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail++;
  return { head, tail };
}

/** What is known of a span by itself, wherever in a map it stands, and how many numbers that is. */
const OF_A_SPAN = { passed: 1, kinds: 1, linear: 1, time: 3, value: 4, travel: 7 } as const;

type SpanTables = Pick<CompiledMap, keyof typeof OF_A_SPAN>;

function copySpans(from: SpanTables, to: SpanTables, first: number, place: number, count: number): void {
  for (const [table, size] of Object.entries(OF_A_SPAN) as [keyof SpanTables, number][]) {
    to[table].set(from[table].subarray(first * size, (first + count) * size), place * size);
  }
}

function writeSpan(ready: SpanTables, index: number, span: Span, ratio: number): void {
  const level = isConstantSpeed(span);
  ready.kinds[index] = span.of === 'position' ? POSITION : level ? CONSTANT : SPEED;
  ready.linear[index] = isLinearTime(span.x[0], span.x[1]) ? 1 : 0;
  const passed = writePolynomials(ready, index, span, ratio);
  // A constant-speed part's polynomial would round; its travel is one product.
  ready.passed[index] = level ? ratio * span.y[0] * span.frames : passed;
}

/** Writes a span's polynomials to their places; gives back what it passes, in source frames. */
function writePolynomials(
  { time, value, travel }: Pick<CompiledMap, 'time' | 'value' | 'travel'>,
  index: number,
  span: Span,
  ratio: number,
): number {
  const [a1, a2, a3] = timeCoefficients(span.x[0], span.x[1]);
  const b = valueCoefficients(span.y);
  const [t, v, p] = [index * 3, index * 4, index * 7];
  [time[t], time[t + 1], time[t + 2]] = [a1, a2, a3];
  let passed = 0;
  for (let i = 0; i < 4; i++) {
    value[v + i] = b[i]!;
    if (span.of === 'position') {
      travel[p + i] = b[i]!;
      passed += b[i]!;
      continue;
    }
    // ∫ Y·X′ du, power by power: X′ = a1 + 2·a2·u + 3·a3·u².
    const scale = ratio * span.frames * b[i]!;
    travel[p + i + 1]! += (scale * a1) / (i + 1);
    travel[p + i + 2]! += (scale * 2 * a2) / (i + 2);
    travel[p + i + 3]! += (scale * 3 * a3) / (i + 3);
  }
  if (span.of === 'position') return passed;
  for (let power = 1; power <= 6; power++) passed += travel[p + power]!;
  return passed;
}

/** Index of the span in which output time `t` lies; a joint belongs to the span after it, the end to the last. */
export function spanIndexAt(ready: CompiledMap, t: number): number {
  const { times, count } = ready;
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (times[middle]! <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

function parameterAt(ready: CompiledMap, index: number, t: number): number {
  const start = ready.times[index]!;
  const s = (t - start) / (ready.times[index + 1]! - start);
  if (ready.linear[index]) return s < 0 ? 0 : s > 1 ? 1 : s;
  const a = index * 3;
  return solveTime(ready.time[a]!, ready.time[a + 1]!, ready.time[a + 2]!, s);
}

function positionIn(ready: CompiledMap, index: number, u: number): number {
  const p = ready.travel;
  const i = index * 7;
  const high = ((p[i + 6]! * u + p[i + 5]!) * u + p[i + 4]!) * u + p[i + 3]!;
  return ready.positions[index]! + ((high * u + p[i + 2]!) * u + p[i + 1]!) * u + p[i]!;
}

/**
 * Source position, in source frames (real), at output time `t` (output frames, real).
 *
 * Exact: a polynomial of the span's parameter, never summed step by step. Before 0 and past the end the map
 * goes on at its first and last speed. At a joint with a jump the position after the jump is given.
 */
export function positionAt(map: RetimeMap | CompiledMap, t: number): number {
  const ready = 'map' in map ? map : compile(map);
  if (t < 0) return ready.positions[0]! + ready.ratio * speedAt(ready, 0) * t;
  if (t >= ready.length) {
    const end = ready.positions[ready.count]!;
    return t === ready.length ? end : end + ready.ratio * speedBefore(ready, ready.length) * (t - ready.length);
  }
  const index = spanIndexAt(ready, t);
  if (ready.kinds[index] === CONSTANT) {
    return ready.positions[index]! + ready.ratio * ready.value[index * 4]! * (t - ready.times[index]!);
  }
  return positionIn(ready, index, parameterAt(ready, index, t));
}

/** Source position just before output time `t`: at a joint with a jump, the position the jump leaves. */
export function positionBefore(map: RetimeMap | CompiledMap, t: number): number {
  const ready = 'map' in map ? map : compile(map);
  const index = spanIndexAt(ready, t);
  return index > 0 && Math.abs(ready.times[index]! - t) < TIME_EPSILON ? ready.ends[index - 1]! : positionAt(ready, t);
}

/** Source position from output time `t` on: at a joint, or a rounding error before it, the position after its jump. */
export function positionAfter(map: RetimeMap | CompiledMap, t: number): number {
  const ready = 'map' in map ? map : compile(map);
  const next = spanIndexAt(ready, t) + 1;
  return next < ready.count && ready.times[next]! - t < TIME_EPSILON ? ready.positions[next]! : positionAt(ready, t);
}

function speedIn(ready: CompiledMap, index: number, u: number): number {
  const v = ready.value;
  const i = index * 4;
  if (ready.kinds[index] !== POSITION) return ((v[i + 3]! * u + v[i + 2]!) * u + v[i + 1]!) * u + v[i]!;
  const a = index * 3;
  const rise = (3 * v[i + 3]! * u + 2 * v[i + 2]!) * u + v[i + 1]!;
  const run = (3 * ready.time[a + 2]! * u + 2 * ready.time[a + 1]!) * u + ready.time[a]!;
  const frames = ready.times[index + 1]! - ready.times[index]!;
  const scale = ready.ratio * frames;
  if (Math.abs(run) > 1e-12) return rise / (scale * run);
  // Time stands at this end of the parameter: the limit is the ratio of the next derivatives, or a true jump.
  if (Math.abs(rise) > 1e-9) return rise > 0 ? Infinity : -Infinity;
  const bend = 2 * v[i + 2]! + 6 * v[i + 3]! * u;
  const pull = 2 * ready.time[a + 1]! + 6 * ready.time[a + 2]! * u;
  return Math.abs(pull) > 1e-12 ? bend / (scale * pull) : 0;
}

/**
 * Speed (1 is real time) at output time `t`; at a joint the speed going out of it, at the end the speed
 * coming in. A position span with an upright handle has an infinite speed there.
 */
export function speedAt(map: RetimeMap | CompiledMap, t: number): number {
  const ready = 'map' in map ? map : compile(map);
  const index = spanIndexAt(ready, t);
  return speedIn(ready, index, parameterAt(ready, index, t));
}

/** Speed just before output time `t`: at a joint the speed coming into it. */
export function speedBefore(map: RetimeMap | CompiledMap, t: number): number {
  const ready = 'map' in map ? map : compile(map);
  const index = spanIndexAt(ready, t);
  if (index > 0 && Math.abs(ready.times[index]! - t) < TIME_EPSILON) return speedIn(ready, index - 1, 1);
  return speedIn(ready, index, parameterAt(ready, index, t));
}

/** Length of a map in output frames (real). */
export function mapLength(map: RetimeMap): number {
  return compile(map).length;
}

/** How many whole output frames a map shows: every `n ≥ 0` that lies before its end. */
export function frameCount(map: RetimeMap): number {
  return Math.max(1, Math.ceil(compile(map).length - HELD_EPSILON));
}

/** The source frame held at output frame `n`: rounded down, and the first or last one where the source has run out. */
export function heldFrame(map: RetimeMap | CompiledMap, n: number): number {
  const frames = 'map' in map ? map.map.sourceFrames : map.sourceFrames;
  const frame = Math.floor(positionAt(map, n) + HELD_EPSILON);
  return frame < 0 ? 0 : frame >= frames ? frames - 1 : frame;
}

/** A stretch of output frames that asks for source frames that do not exist. */
interface SourceShortage {
  /** First output frame of the stretch. */
  from: number;
  /** Number of output frames. */
  frames: number;
  side: 'before' | 'after';
}

const shortagesOf = new WeakMap<RetimeMap, readonly SourceShortage[]>();

/** Where a map runs out of its source, in order; the picture holds the first or last frame there. */
export function sourceShortages(map: RetimeMap): readonly SourceShortage[] {
  let found = shortagesOf.get(map);
  if (!found) {
    found = findShortages(map);
    shortagesOf.set(map, found);
  }
  return found;
}

function findShortages(map: RetimeMap): SourceShortage[] {
  const ready = compile(map);
  const shortages: SourceShortage[] = [];
  const total = frameCount(map);
  const frameAt = (n: number): number => Math.floor(positionAt(ready, n) + HELD_EPSILON);
  const exists = (n: number): boolean => frameAt(n) >= 0 && frameAt(n) < map.sourceFrames;
  const look = (n: number): void => {
    if (exists(n)) return;
    const side = frameAt(n) < 0 ? 'before' : 'after';
    const last = shortages.at(-1);
    if (last && last.side === side && last.from + last.frames === n) last.frames++;
    else shortages.push({ from: n, frames: 1, side });
  };
  for (let index = 0; index < ready.count; index++) {
    const first = Math.max(0, Math.ceil(ready.times[index]! - HELD_EPSILON));
    const end = index === ready.count - 1 ? total : Math.min(total, Math.ceil(ready.times[index + 1]! - HELD_EPSILON));
    // A constant-speed part runs one way: what exists at both its ends exists all through it, however long it is.
    if (ready.kinds[index] === CONSTANT && end > first && exists(first) && exists(end - 1)) continue;
    for (let n = first; n < end; n++) look(n);
  }
  return shortages;
}
