import type { RetimeMap, Span } from '@hastig/contract';
import { trimDecimals } from '../../time';
import { compile } from '../map';
import { constantSpan, linearPositionSpan } from '../span';
import { normalize } from '../edit/range';
import { EditRefused } from '../edit/refused';
import { refuseLocked } from '../lock';
import { monotoneSlopes } from './monotone';

/** A source position at an output time, both in frames (real). */
interface PositionKey {
  output: number;
  source: number;
}

/** How the position runs from one key to the next. `smooth` is monotone: it never overshoots. */
export type Interpolation = 'hold' | 'linear' | 'smooth';

/** A map's keys as a table; the last row is the end, where the source would go on. */
export function positionKeys(map: RetimeMap): PositionKey[] {
  const { times, positions, count } = compile(map);
  return Array.from({ length: count + 1 }, (_, i) => ({ output: times[i]!, source: positions[i]! }));
}

function checkKeys(keys: readonly PositionKey[]): void {
  if (keys.length < 2) throw new EditRefused('table', 'A table of positions needs at least two rows.');
  if (keys[0]!.output !== 0) {
    throw new EditRefused('table', `The first row must be output frame 0; it is ${trimDecimals(keys[0]!.output, 3)}.`);
  }
  keys.forEach(({ output, source }, row) => {
    if (!Number.isFinite(output) || !Number.isFinite(source)) {
      throw new EditRefused('table', `Row ${row + 1} has no number.`);
    }
    if (row > 0 && !(output > keys[row - 1]!.output)) {
      throw new EditRefused('table', `Row ${row + 1}: output frame ${output} must be after the row above it.`);
    }
  });
}

/**
 * The map through a table of positions.
 *
 * @param keys at least two, the first at output frame 0, their output frames rising
 */
export function fromPositionKeys(map: RetimeMap, keys: readonly PositionKey[], how: Interpolation): RetimeMap {
  checkKeys(keys);
  const slopes = monotoneSlopes(
    keys.map((key) => key.output),
    keys.map((key) => key.source),
  );
  const spans = keys.slice(1).flatMap((key, i) => {
    const before = keys[i]!;
    return between(key.output - before.output, key.source - before.source, how, slopes[i]!, slopes[i + 1]!);
  });
  // A held span leaves the step to the next one's jump.
  let owed = 0;
  const placed = spans.map((span, i): Span => {
    const jump = owed;
    owed = how === 'hold' ? keys[i + 1]!.source - keys[i]!.source : 0;
    return jump ? { ...span, jump } : span;
  });
  return normalize(map, keys[0]!.source, placed);
}

function between(frames: number, travel: number, how: Interpolation, from: number, to: number): Span[] {
  if (how === 'hold') return [constantSpan(0, frames)];
  if (how === 'linear') return [linearPositionSpan(travel, frames)];
  const third = frames / 3;
  return [{ of: 'position', frames, x: [1 / 3, 2 / 3], y: [0, from * third, travel - to * third, travel] }];
}

/**
 * One part as a course of positions between its two keys, which stay. `smooth` takes its slopes from the keys around it;
 * from there its handles are free. `hold` shows the first frame until the next key.
 */
export function interpolateSpan(map: RetimeMap, index: number, how: Interpolation): RetimeMap {
  const span = map.spans[index];
  if (!span) throw new EditRefused('span', 'This part doesn’t exist.');
  refuseLocked([span]);
  const { times, positions, ends, count } = compile(map);
  const travel = ends[index]! - positions[index]!;
  // The neighbours' slopes count only as far as the source runs through without a jump.
  let [first, last] = [index, index + 1];
  if (index > 0 && !span.jump) first--;
  if (index + 1 < count && !map.spans[index + 1]!.jump) last++;
  const at = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const slopes = monotoneSlopes(
    at.map((key) => times[key]!),
    at.map((key) => (key === last ? ends[key - 1]! : positions[key]!)),
  );
  const [made] = between(span.frames, travel, how, slopes[index - first]!, slopes[index - first + 1]!);
  const spans = map.spans.slice();
  spans[index] = span.jump ? { ...made!, jump: span.jump } : made!;
  const next = spans[index + 1];
  if (how === 'hold' && next) spans[index + 1] = { ...next, jump: (next.jump ?? 0) + travel };
  return normalize(map, map.start, spans);
}
