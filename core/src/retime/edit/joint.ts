import type { RetimeMap, Span } from '@hastig/contract';
import type { Ease } from '../ease';
import { compile } from '../map';
import { meetJoined } from '../land/system';
import { isConstantSpeed, rampSpan, withEndSpeeds } from '../span';
import { placeSpans } from './place';
import { rampAtKey } from './ramp';
import { withJump, type Keeps } from './range';
import { EditRefused } from './refused';
import { setPartSpeed } from './speed';

/** Whether the two speeds of the key before span `index` are one value that stays one. */
export function isJoined(map: RetimeMap, index: number): boolean {
  return meetJoined(map.spans[index - 1], map.spans[index]);
}

/** Output frames of the ramp that joins two held speeds, where there is room for it. */
const JOINING_RAMP = 12;

function checkKey(map: RetimeMap, index: number): [Span, Span] {
  const [before, after] = [map.spans[index - 1], map.spans[index]];
  if (!before || !after) throw new EditRefused('key', 'The first and the last key have only one speed.');
  return [before, after];
}

/**
 * Makes the two speeds of a key one. Between two held speeds that takes a ramp over the key; a ramp beside a held speed
 * leads to it; two ramps meet halfway.
 *
 * @param index of the span after the key
 */
export function joinKey(map: RetimeMap, index: number, keeps: Keeps): RetimeMap {
  const [before, after] = checkKey(map, index);
  if (after.jump) throw new EditRefused('key', 'The source jumps at this key, so its speeds can’t be joined.');
  if (before.of !== 'speed' || after.of !== 'speed') {
    throw new EditRefused('key', 'Only keys between speeds can be joined. Convert to speeds first.');
  }
  if (isConstantSpeed(before) && isConstantSpeed(after)) {
    if (before.y[0] === after.y[0]) return map;
    return rampAtKey(map, index, Math.min(JOINING_RAMP, before.frames, after.frames));
  }
  const speed = isConstantSpeed(before)
    ? before.y[3]
    : isConstantSpeed(after)
      ? after.y[0]
      : (before.y[3] + after.y[0]) / 2;
  return setKeySpeeds(map, index, { in: speed, out: speed }, keeps);
}

/**
 * Sets the speeds on one or both sides of a key; joined ones part where they differ. A held speed changes as a whole,
 * a ramp at this end only.
 *
 * @param index of the span after the key, 0…count
 */
export function setKeySpeeds(
  map: RetimeMap,
  index: number,
  speeds: { in?: number; out?: number },
  keeps: Keeps,
): RetimeMap {
  for (const speed of [speeds.in, speeds.out]) {
    if (speed !== undefined && !Number.isFinite(speed)) throw new EditRefused('speed', 'The speed must be a number.');
  }
  let result = map;
  if (speeds.in !== undefined && index > 0) result = setEndSpeed(result, index - 1, 3, speeds.in, keeps);
  if (speeds.out !== undefined && index < map.spans.length) result = setEndSpeed(result, index, 0, speeds.out, keeps);
  return result;
}

function setEndSpeed(map: RetimeMap, index: number, end: 0 | 3, speed: number, keeps: Keeps): RetimeMap {
  const span = map.spans[index]!;
  if (span.of === 'speed' && span.y[end] === speed) return map;
  if (isConstantSpeed(span)) return setPartSpeed(map, index, speed, keeps);
  if (span.of === 'position')
    return replaceSpan(map, index, withEndSlope(span, end, speed * compile(map).ratio), keeps);
  const [from, to] = end === 0 ? [speed, span.y[3]] : [span.y[0], speed];
  return replaceSpan(map, index, withEndSpeeds(span, from, to), keeps);
}

// A position span whose curve leaves or reaches its end with another slope, in source frames an output frame.
function withEndSlope(span: Span, end: 0 | 3, slope: number): Span {
  const y: Span['y'] = [...span.y];
  const x: Span['x'] = [...span.x];
  // An upright handle has no slope to change; it is drawn out first.
  if (end === 0) {
    x[0] ||= 1 / 3;
    y[1] = slope * x[0] * span.frames;
  } else {
    if (x[1] === 1) x[1] = 2 / 3;
    y[2] = y[3] - slope * (1 - x[1]) * span.frames;
  }
  return { ...span, x, y };
}

/** One span changed, in its place: `content` keeps what it passes by its length, `length` its length. */
export function replaceSpan(map: RetimeMap, index: number, span: Span, keeps: Keeps): RetimeMap {
  const { times } = compile(map);
  return placeSpans(map, { from: times[index]!, to: times[index + 1]! }, [span], keeps);
}

/**
 * Moves the two inner handles of a span.
 *
 * @param x their times, 0…1 of the span
 * @param y their values: speeds, or source frames from the span's start
 */
export function setHandles(
  map: RetimeMap,
  index: number,
  x: Span['x'],
  y: readonly [number, number],
  keeps: Keeps,
): RetimeMap {
  const span = map.spans[index];
  if (!span) throw new EditRefused('span', 'This part doesn’t exist.');
  if (![...x, ...y].every(Number.isFinite)) throw new EditRefused('handles', 'A handle must be a number.');
  const unit = (value: number): number => Math.min(1, Math.max(0, value));
  const shaped: Span = { ...span, x: [unit(x[0]), unit(x[1])], y: [span.y[0], y[0], y[1], span.y[3]] };
  return replaceSpan(map, index, shaped, keeps);
}

/** Gives a ramp between any two speeds an ease of its own. */
export function easeSpan(map: RetimeMap, index: number, ease: Ease, keeps: Keeps): RetimeMap {
  const span = map.spans[index];
  if (span?.of !== 'speed' || span.y[0] === span.y[3]) {
    throw new EditRefused('span', 'Only a ramp has an ease. Select a part that changes speed.');
  }
  const eased = withJump(rampSpan(span.y[0], span.y[3], span.frames, ease), span.jump ?? 0);
  return replaceSpan(map, index, eased, keeps);
}

/** The index of the key at an output time (to half a frame), or undefined. */
export function keyNear(map: RetimeMap, output: number): number | undefined {
  const { times } = compile(map);
  const after = times.findIndex((time) => time >= output);
  const near = (after === -1 ? [times.length - 1] : [after - 1, after])
    .filter((index) => index >= 0 && Math.abs(times[index]! - output) <= 0.5)
    .sort((a, b) => Math.abs(times[a]! - output) - Math.abs(times[b]! - output));
  return near[0];
}
