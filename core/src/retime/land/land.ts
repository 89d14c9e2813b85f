import type { Pin, RetimeMap, Span } from '@hastig/contract';
import { formatPercent, trimDecimals } from '../../time';
import { EditRefused } from '../edit/refused';
import { compile, positionAt, TIME_EPSILON } from '../map';
import { leastChange } from './solve';
import { landingSystem, travelRow, withValues, type LandingSystem, type Row } from './system';

interface LandOptions {
  /** Speeds do not fall below it (backwards ones not above its negative); 0 unless given. */
  floor?: number;
  /** Spans whose speeds stay although they are not locked. */
  held?: ReadonlySet<Span>;
}

/** Source frames by which a pin may be missed and still count as met. */
const MET = 1e-9;

const frames = (value: number): string => trimDecimals(value, 2);
const nameOf = (pin: Pin): string => `output ${frames(pin.output)} (source ${frames(pin.source)})`;

/** A map's pins in the order of their output times. */
export function pinsOf(map: RetimeMap): readonly Pin[] {
  return map.pins ?? [];
}

/** Whether every pinned source frame stands where it is pinned. */
export function pinsMet(map: RetimeMap): boolean {
  const ready = compile(map);
  return pinsOf(map).every(
    ({ output, source }) =>
      output <= ready.length + TIME_EPSILON &&
      Math.abs(positionAt(ready, output) - source) <= MET * Math.max(1, Math.abs(source)),
  );
}

/**
 * Brings every pinned source frame to its output time by the least change of the free speeds, in the sense of least
 * squares over output time. Lengths, jumps, locked spans and freezes stay; joined speeds stay joined.
 *
 * @returns the map itself where all pins are met already
 * @throws EditRefused saying which pins contradict and by how many frames
 */
export function land(map: RetimeMap, options: LandOptions = {}): RetimeMap {
  const pins = pinsOf(map);
  checkPins(map, pins);
  if (pinsMet(map)) return map;
  const { floor = 0, held = new Set<Span>() } = options;
  const first = pins[0]!;
  // A pin at the very beginning is the position the clip starts at.
  const atStart = first.output < TIME_EPSILON;
  const placed = atStart ? { ...map, start: first.source - (map.spans[0]!.jump ?? 0) } : map;
  const stops: Pin[] = atStart ? [...pins] : [{ output: 0, source: compile(placed).positions[0]! }, ...pins];
  const system = landingSystem(placed, (span) => held.has(span), floor);
  const rows = stops
    .slice(1)
    .map((pin, i) => travelRow(placed, system, stops[i]!.output, pin.output, pin.source - stops[i]!.source));
  const { values, misses, solved } = leastChange(system.unknowns, rows);
  if (!solved) throw new EditRefused('pin', contradiction(stops, rows, system, misses, floor));
  return withValues(placed, system, values);
}

function checkPins(map: RetimeMap, pins: readonly Pin[]): void {
  const { length } = compile(map);
  pins.forEach((pin, index) => {
    if (!(pin.source >= 0 && pin.source <= map.sourceFrames)) {
      throw new EditRefused(
        'source',
        `Source frame ${frames(pin.source)} does not exist: the source has frames 0 to ${map.sourceFrames - 1}.`,
      );
    }
    if (!(pin.output >= 0 && pin.output <= length + TIME_EPSILON)) {
      const end = frames(length);
      throw new EditRefused(
        'output',
        `The pin at ${nameOf(pin)} would be outside the clip, which is ${end} frames long.`,
      );
    }
    const before = pins[index - 1];
    if (before && pin.output - before.output < TIME_EPSILON) {
      throw new EditRefused(
        'output',
        `There are two pins at output ${frames(pin.output)}. Only one frame can be shown there.`,
      );
    }
  });
}

/** Why pins cannot all be met: the first stretch that cannot be passed, or else the one that misses most. */
function contradiction(
  stops: readonly Pin[],
  rows: readonly Row[],
  { unknowns }: LandingSystem,
  misses: readonly number[],
  floor: number,
): string {
  const between = (index: number): string => {
    const start = index === 0 && stops[0]!.output === 0 ? 'the clip’s start' : nameOf(stops[index]!);
    return `Between ${start} and ${nameOf(stops[index + 1]!)}`;
  };
  for (const [index, row] of rows.entries()) {
    const need = row.wanted + row.constant;
    const terms = [...row.terms].filter(([, coefficient]) => Math.abs(coefficient) > 1e-12);
    if (terms.length === 0) {
      const short = need - row.constant;
      return `${between(index)} nothing can change: it shows ${frames(row.constant)} source frames, ${frames(Math.abs(short))} ${short > 0 ? 'too few' : 'too many'}. Unlock a part or move a pin.`;
    }
    const bound = (side: 'low' | 'high'): number =>
      terms.reduce((sum, [k, c]) => sum + c * unknowns[k]![c > 0 === (side === 'low') ? 'low' : 'high'], row.constant);
    const [least, most] = [bound('low'), bound('high')];
    if (need < least - MET) {
      const limit = floor === 0 ? 'without running backwards' : `at ${formatPercent(floor)} or more`;
      return `${between(index)} at least ${frames(least)} source frames play ${limit}, ${frames(least - need)} more than the pins allow.`;
    }
    if (need > most + MET) {
      return `${between(index)} at most ${frames(most)} source frames play, ${frames(need - most)} fewer than the pins need.`;
    }
  }
  const index = misses.reduce((most, miss, i) => (Math.abs(miss) > Math.abs(misses[most]!) ? i : most), 0);
  const off = frames(Math.abs(misses[index]!));
  return `${between(index)} the speeds are shared with other pins and conflict by ${off} frames. Add a key between them or split a joined one.`;
}
