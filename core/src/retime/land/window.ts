import type { RetimeMap, Span } from '@hastig/contract';
import { EditRefused } from '../edit/refused';
import { compile } from '../map';
import { isConstantSpeed } from '../span';
import { leastChange } from './solve';
import { landingSystem, meetJoined, travelRow, withValues } from './system';

/** A stretch of output time that must pass so many source frames. */
interface WantedTravel {
  from: number;
  to: number;
  travel: number;
}

/**
 * Changes the speeds of a few neighbouring spans, as little as possible, so that stretches of them pass what is wanted;
 * all other spans stay.
 *
 * @param free indices of the spans that may change
 * @throws EditRefused with `reason` where they cannot
 */
export function landWindow(
  map: RetimeMap,
  free: ReadonlySet<number>,
  wanted: readonly WantedTravel[],
  reason: string,
): RetimeMap {
  // Only the free spans and the one beside them on either side take part: a map may have thousands.
  const first = Math.max(0, Math.min(...free) - 1);
  const last = Math.min(map.spans.length, Math.max(...free) + 2);
  const { times, positions } = compile(map);
  const part: RetimeMap = { ...map, start: positions[first]!, spans: map.spans.slice(first, last) };
  const shift = times[first]!;
  const spans = new Set<Span>([...free].map((index) => map.spans[index]!));
  const system = landingSystem(part, (span) => !spans.has(span), 0);
  const rows = wanted.map(({ from, to, travel }) => travelRow(part, system, from - shift, to - shift, travel));
  const { values, solved } = leastChange(system.unknowns, rows);
  if (!solved) throw new EditRefused('speed', reason);
  const landed = withValues(part, system, values);
  return { ...map, spans: map.spans.toSpliced(first, last - first, ...landed.spans) };
}

/**
 * The spans that can give way on one side of a key: the one beside it and, as far as they are joined, those that must
 * follow it, up to where a speed is free.
 *
 * @param index of the span beside the key
 * @param side −1 leftwards, 1 rightwards
 */
export function givingWay(map: RetimeMap, index: number, side: -1 | 1): number[] {
  const found = [index];
  for (let at = index; ; at += side) {
    const [before, after] = side === -1 ? [map.spans[at - 1], map.spans[at]] : [map.spans[at], map.spans[at + 1]];
    if (!meetJoined(before, after)) return found;
    found.push(at + side);
    // A constant-speed part is free once the ramp behind it follows.
    if (isConstantSpeed(map.spans[at]!)) return found;
  }
}
