import type { RetimeMap, Span } from '@hastig/contract';
import { refuseLocked } from '../lock';
import { compile, positionAt } from '../map';
import { constantSpan } from '../span';
import { checkRange, cutRange, replaceRange, withJump, type OutputRange } from './range';
import { EditRefused } from './refused';
import { setSpeed } from './speed';

/** Most holds one stutter makes; more are a typing error. */
const MOST_HOLDS = 20_000;

/**
 * Stutter, or stop-motion: of the frames a range shows, every `every`-th is held for as many. The length stays, and so
 * does all around.
 *
 * @param every output frames, a whole number of at least 2
 */
export function stutter(map: RetimeMap, range: OutputRange, every: number): RetimeMap {
  if (!(Number.isInteger(every) && every >= 2)) {
    throw new EditRefused('every', 'Each frame must be held for a whole number of frames, at least 2.');
  }
  const { from, to } = checkRange(map, range);
  refuseLocked(cutRange(map, { from, to }).middle);
  if ((to - from) / every > MOST_HOLDS)
    throw new EditRefused('every', 'That is too many holds. Choose a shorter range.');
  const ready = compile(map);
  const spans: Span[] = [];
  let held = positionAt(ready, from);
  for (let at = from; at < to - 1e-9; at += every) {
    const position = positionAt(ready, at);
    spans.push(withJump(constantSpan(0, Math.min(every, to - at)), position - held));
    held = position;
  }
  return replaceRange(map, { from, to }, spans, 'stay', positionAt(ready, from));
}

/** `frames`: every N-th source frame is shown; `speed`: N times real time. */
export type TimeLapseBy = 'frames' | 'speed';

/**
 * Time-lapse: a range runs so fast that every `n`-th of its source frames is shown, or at `n` times real time. Its
 * content stays, its length shrinks.
 */
export function timeLapse(map: RetimeMap, range: OutputRange, n: number, by: TimeLapseBy): RetimeMap {
  if (!(n > 0) || !Number.isFinite(n)) throw new EditRefused('n', 'The speed must be more than 0.');
  if (by === 'frames' && !Number.isInteger(n)) throw new EditRefused('n', 'The number of frames must be whole.');
  const { middleStart, middleEnd } = cutRange(map, checkRange(map, range));
  const direction = Math.sign(middleEnd - middleStart) || 1;
  return setSpeed(map, range, (direction * n) / (by === 'frames' ? compile(map).ratio : 1), 'content');
}
