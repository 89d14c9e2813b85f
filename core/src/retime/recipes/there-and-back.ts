import type { RetimeMap, Span } from '@hastig/contract';
import { bracketedRoot } from '../bezier';
import type { Ease } from '../ease';
import { refuseLocked } from '../lock';
import { compile, positionAt, speedBefore } from '../map';
import { meanSpeed, mirrorSpan, rampSpan } from '../span';
import { splitAt } from '../split';
import { checkRange, cutRange, replaceRange, normalize, type OutputRange } from '../edit/range';
import { EditRefused } from '../edit/refused';

export interface ThereAndBackOptions {
  /** Output frames from full speed to the standstill at a turn. */
  ramp: number;
  ease: Ease;
  /** After the way back: forward again and on, or the clip ends there. */
  then: 'on' | 'end';
}

/** Spans that end in a ramp to a standstill, exactly where they ended before, or `short` source frames before that. */
function easedEnd(map: RetimeMap, ramp: number, ease: Ease, short = 0): Span[] {
  const ready = compile(map);
  const out = ready.ends[ready.count - 1]! - short;
  const turn = (t: number): Span => rampSpan(speedBefore(ready, t), 0, ramp, ease);
  const arrives = (t: number): number => positionAt(ready, t) + ready.ratio * ramp * meanSpeed(turn(t)) - out;
  const start = bracketedRoot(arrives, 0, ready.length);
  if (start === undefined) {
    throw new EditRefused('ramp', 'The ramp is longer than the range. Shorten it, or choose a longer range.');
  }
  const { map: cut, index } = splitAt(map, start);
  return [...cut.spans.slice(0, index), turn(start)];
}

/** Source frames from the last output frame to the end, one at most. */
function lastStep(map: RetimeMap): number {
  const ready = compile(map);
  const step = ready.ends[ready.count - 1]! - positionAt(ready, Math.max(0, ready.length - 1));
  return Math.sign(step) * Math.min(1, Math.abs(step));
}

const mirrored = (spans: readonly Span[]): Span[] => spans.map(mirrorSpan).reverse();

/**
 * There and back: a range runs forward, slows to a standstill at its last frame, runs back the same way, mirrored, and then either forward
 * again and on, or ends.
 */
export function thereAndBack(map: RetimeMap, range: OutputRange, { ramp, ease, then }: ThereAndBackOptions): RetimeMap {
  if (!(ramp > 0)) throw new EditRefused('ramp', 'The ramp must be longer than 0 frames.');
  const { from, to } = checkRange(map, range);
  const { middle, middleStart } = cutRange(map, { from, to });
  refuseLocked(middle);
  if (middle.some((span, index) => index > 0 && span.jump)) {
    throw new EditRefused('range', 'The source jumps in this range, so it can’t run back through it.');
  }
  const part = normalize(
    map,
    middleStart,
    middle.map(({ jump: _jump, ...span }) => span),
  );
  // Ranges are half open: the turn shows the range's last frame, not the one after it.
  const there = easedEnd(part, ramp, ease, lastStep(part));
  if (then === 'end') {
    return replaceRange(map, { from, to: compile(map).length }, [...there, ...mirrored(there)], 'follow');
  }
  // Backwards the range starts where it ended, so its eased end is the eased start of the way on.
  const backwards = { ...part, start: compile(part).ends[part.spans.length - 1]!, spans: mirrored(part.spans) };
  const on = mirrored(easedEnd(backwards, ramp, ease));
  const back = easedEnd({ ...backwards, spans: mirrored(there) }, ramp, ease);
  return replaceRange(map, { from, to }, [...there, ...back, ...on], 'stay');
}
