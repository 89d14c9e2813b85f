import type { RetimeMap, Span } from '@hastig/contract';
import { trimDecimals } from '../../time';
import { eases, type Ease } from '../ease';
import { refuseLocked } from '../lock';
import { compile, speedBefore, spanIndexAt } from '../map';
import { constantSpan, isConstantSpeed, meanSpeed, rampSpan, spanEase, spanTravel } from '../span';
import { splitAt } from '../split';
import { replaceRange, normalize, type Keeps } from './range';
import { EditRefused } from './refused';
import { setPartSpeed, setSpeed } from './speed';

/** Where a ramp lies relative to the moment it is made for. */
export type RampPlace = 'centred' | 'ending' | 'starting';

interface RampOptions {
  /** Output frame of the change. */
  at: number;
  /** Length of the ramp in output frames. */
  frames: number;
  /** Speed before the ramp; what the map has there, unless given. */
  from?: number;
  /** Speed after the ramp, up to the next key. */
  to: number;
  ease?: Ease;
  place?: RampPlace;
  keeps: Keeps;
}

/**
 * How much of a ramp lies before the moment at which a plain jump of speed would give the same travel.
 * For a symmetric ease it is half.
 */
function shareBefore(ramp: Span): number {
  const rise = ramp.y[3] - ramp.y[0];
  return rise === 0 ? 0.5 : 1 - (meanSpeed(ramp) - ramp.y[0]) / rise;
}

const EPSILON = 1e-9;

function needRoom(have: number, need: number, side: 'before' | 'after'): void {
  if (need <= have + EPSILON) return;
  const frames = trimDecimals(have, 2);
  throw new EditRefused(
    'frames',
    `The ramp needs ${trimDecimals(need, 2)} frames ${side} this point. The key ${side} it leaves ${frames}.`,
  );
}

/** Puts a ramp over the jump of speed at joint `index`, on the constant-speed parts at both sides, travel outside it unchanged. */
function rampOverJoint(map: RetimeMap, index: number, frames: number, ease: Ease): RetimeMap {
  const ready = compile(map);
  const [before, after] = [map.spans[index - 1]!, map.spans[index]!];
  refuseLocked([before, after]);
  const ramp = rampSpan(before.y[3], after.y[0], frames, ease);
  const at = ready.times[index]!;
  const lead = frames * shareBefore(ramp);
  needRoom(before.frames, lead, 'before');
  needRoom(after.frames, frames - lead, 'after');
  return replaceRange(map, { from: at - lead, to: at - lead + frames }, [ramp], 'follow');
}

/**
 * Changes the speed at a moment, by a ramp, up to the next key.
 *
 * `centred` lays the ramp so that nothing outside it moves: for a symmetric ease half of it on each side.
 * `ending` and `starting` put it wholly before or after the moment. With the content kept, the constant-speed part
 * that the ramp leads to (or comes from) lasts as long as its content needs; with the length kept, what follows
 * shifts in the source.
 */
export function ramp(map: RetimeMap, options: RampOptions): RetimeMap {
  const { at, frames, to, keeps, ease = eases.linear, place = 'centred' } = options;
  const { length } = compile(map);
  if (!(frames > 0) || !Number.isFinite(frames))
    throw new EditRefused('frames', 'A ramp must be longer than 0 frames.');
  if (!(at > 0 && at < length)) throw new EditRefused('at', 'A ramp needs part of the clip before and after it.');
  const speedIn = speedBefore(map, at);
  let paced = map;
  let moment = at;
  if (to !== constantSpeed(map, at)) {
    // As a part of its own, so that a ramp joined to its far end follows.
    const { map: cut, index } = splitAt(paced, at);
    paced = setPartSpeed(cut, index, to, keeps);
  }
  if (options.from !== undefined && options.from !== speedIn) {
    const start = startOfSpanBefore(paced, at);
    const before = setSpeed(paced, { from: start, to: at }, options.from, keeps);
    moment += compile(before).length - compile(paced).length;
    paced = before;
  }
  const { map: split, index } = splitAt(paced, moment);
  const [left, right] = [split.spans[index - 1]!, split.spans[index]!];
  if (!isConstantSpeed(left) || !isConstantSpeed(right)) {
    throw new EditRefused(
      'at',
      'There is already a ramp here. Change its width, or move to where the speed is constant.',
    );
  }
  if (place === 'centred') return rampOverJoint(split, index, frames, ease);
  const change = rampSpan(left.y[3], right.y[0], frames, ease);
  const side = place === 'ending' ? left : right;
  const rest = restOf(side, change, compile(split).ratio, keeps);
  const spans = split.spans.slice();
  const replacement =
    place === 'ending' ? [{ ...rest, ...(left.jump ? { jump: left.jump } : {}) }, change] : [change, rest];
  spans.splice(place === 'ending' ? index - 1 : index, 1, ...replacement);
  return normalize(split, split.start, spans);
}

// What remains of a constant-speed part of which a ramp takes a part.
function restOf(level: Span, change: Span, ratio: number, keeps: Keeps): Span {
  const speed = level.y[0];
  const frames =
    keeps === 'length'
      ? level.frames - change.frames
      : (spanTravel(level, ratio) - spanTravel(change, ratio)) / (ratio * speed);
  if (!(frames >= -EPSILON)) {
    throw new EditRefused('frames', 'The ramp is longer than a part beside it. Make it shorter.');
  }
  return constantSpan(speed, Math.max(0, frames));
}

function constantSpeed(map: RetimeMap, at: number): number | undefined {
  const span = map.spans[spanIndexAt(compile(map), at)]!;
  return isConstantSpeed(span) ? span.y[0] : undefined;
}

function startOfSpanBefore(map: RetimeMap, at: number): number {
  const { map: split, index } = splitAt(map, at);
  return compile(split).times[index - 1]!;
}

/**
 * Makes a ramp wider or narrower; the speeds on both sides and every frame outside it stay as they are.
 *
 * The ramp stays centred on the moment at which a plain jump of speed would have the same travel. A length
 * of 0 turns it into that jump.
 *
 * @param index of the ramp in `map.spans`, a speed span between two constant-speed parts
 * @param frames new length in output frames
 */
export function widenRamp(map: RetimeMap, index: number, frames: number): RetimeMap {
  if (!(frames >= 0)) throw new EditRefused('frames', 'A ramp can’t be shorter than 0 frames.');
  const [before, change, after] = [map.spans[index - 1], map.spans[index], map.spans[index + 1]];
  const ease = change && spanEase(change);
  if (!before || !change || !after || !ease || !isConstantSpeed(before) || !isConstantSpeed(after)) {
    throw new EditRefused('span', 'Only a ramp between two constant speeds can be widened.');
  }
  refuseLocked([before, change, after]);
  const lead = change.frames * shareBefore(change);
  const spans = map.spans.slice();
  const left = { ...before, frames: before.frames + lead };
  const right = { ...constantSpan(after.y[0], after.frames + change.frames - lead) };
  spans.splice(index - 1, 3, left, right);
  const jumped = { ...map, spans };
  return frames < EPSILON ? jumped : rampOverJoint(jumped, index, frames, ease);
}

/**
 * Turns the jump of speed at a joint into a ramp, every frame outside it as before.
 *
 * @param index of the joint: the span after it in `map.spans`
 */
export function rampAtKey(map: RetimeMap, index: number, frames: number, ease: Ease = eases.linear): RetimeMap {
  const [before, after] = [map.spans[index - 1], map.spans[index]];
  if (!before || !after || !isConstantSpeed(before) || !isConstantSpeed(after)) {
    throw new EditRefused('key', 'A ramp needs a key between two constant speeds.');
  }
  if (after.jump) throw new EditRefused('key', 'The source jumps at this key, so no ramp can cross it.');
  if (!(frames > 0)) throw new EditRefused('frames', 'A ramp must be longer than 0 frames.');
  return rampOverJoint(map, index, frames, ease);
}

/** Gives a ramp another ease; the speeds on both sides and every frame outside the ramp stay as they are. */
export function easeRamp(map: RetimeMap, index: number, ease: Ease): RetimeMap {
  const change = map.spans[index];
  if (!change) throw new EditRefused('span', 'This ramp doesn’t exist.');
  const eased = { ...change, ...rampSpan(change.y[0], change.y[3], change.frames, ease) };
  const jumped = widenRamp(map, index, 0);
  // The new ease may lie off centre differently, so the ramp is laid anew over the same moment.
  return rampOverJoint(jumped, index, eased.frames, ease);
}
