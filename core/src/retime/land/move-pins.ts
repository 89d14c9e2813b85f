import type { RetimeMap } from '@hastig/contract';
import { EditRefused } from '../edit/refused';
import { refuseLocked } from '../lock';
import { compile, TIME_EPSILON } from '../map';
import { scaleSpan } from '../span';
import { splitAt } from '../split';
import { pinsOf } from './land';
import { withPins } from './pins';

/** A pin's output time, and where it goes. */
export interface PinMove {
  from: number;
  to: number;
}

/**
 * Moves pins in the output, their source frames with them: what lies between two of them is played faster or slower, in proportion,
 * and shows what it showed. The clip's start and end stay.
 *
 * @throws EditRefused where a pin would pass another one or the clip's end, or a locked part would have to change
 */
export function movePins(map: RetimeMap, moves: readonly PinMove[]): RetimeMap {
  const { length } = compile(map);
  const target = (output: number): number =>
    moves.find(({ from }) => Math.abs(from - output) <= TIME_EPSILON)?.to ?? output;
  const pins = pinsOf(map).map((pin) => ({ pin, to: target(pin.output) }));
  const inside = pins.filter(({ pin }) => pin.output > TIME_EPSILON && pin.output < length - TIME_EPSILON);
  const stops = [
    { from: 0, to: 0 },
    ...inside.map(({ pin, to }) => ({ from: pin.output, to })),
    { from: length, to: length },
  ];
  for (let index = 1; index < stops.length; index++) {
    if (stops[index]!.to - stops[index - 1]!.to < TIME_EPSILON) {
      throw new EditRefused('pin', 'A pin can’t pass another one, or the clip’s start or end.');
    }
  }
  const cut = stops.reduce((now, { from }) => (from > 0 && from < length ? splitAt(now, from).map : now), map);
  const { times } = compile(cut);
  const spans = cut.spans.map((span, index) => {
    const middle = (times[index]! + times[index + 1]!) / 2;
    const end = stops.findIndex(({ from }) => from > middle);
    const [a, b] = [stops[end - 1]!, stops[end]!];
    const factor = (b.to - a.to) / (b.from - a.from);
    if (Math.abs(factor - 1) < 1e-12) return span;
    refuseLocked([span]);
    return scaleSpan(span, factor);
  });
  return withPins(
    { ...cut, spans },
    pins.map(({ pin, to }) => ({ ...pin, output: to })),
  );
}
