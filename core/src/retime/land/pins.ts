import type { Pin, RetimeMap, Span } from '@hastig/contract';
import { trimDecimals } from '../../time';
import { EditRefused } from '../edit/refused';
import { compile, positionAt, spanIndexAt, TIME_EPSILON } from '../map';
import { splitAt } from '../split';
import { isConstantSpeed } from '../span';
import { land, pinsMet, pinsOf } from './land';

/** The map with other pins, in order; without the field where there are none. */
export function withPins(map: RetimeMap, pins: readonly Pin[]): RetimeMap {
  const { pins: _old, ...rest } = map;
  if (pins.length === 0) return rest;
  return { ...rest, pins: [...pins].sort((a, b) => a.output - b.output) };
}

/** The map without the pin at an output time (to 1e-9). */
export function unpin(map: RetimeMap, output: number): RetimeMap {
  return withPins(
    map,
    pinsOf(map).filter((pin) => Math.abs(pin.output - output) > TIME_EPSILON),
  );
}

/** The pin at an output time, if there is one. */
export function pinAt(map: RetimeMap, output: number): Pin | undefined {
  return pinsOf(map).find((pin) => Math.abs(pin.output - output) <= TIME_EPSILON);
}

/**
 * Pins a source position to an output time and lands it there: the other pins hold, the free speeds change least. On a
 * constant-speed part a key is made, so that the speed may differ on both sides.
 *
 * @param output frames, 0…length
 * @param source source frames, real; what stands there now unless given
 */
export function pin(map: RetimeMap, output: number, source = positionAt(map, output)): RetimeMap {
  const ready = compile(map);
  if (!(output >= 0 && output <= ready.length + TIME_EPSILON)) {
    const end = trimDecimals(ready.length, 2);
    throw new EditRefused('output', `A pin must be within the clip, which is ${end} frames long.`);
  }
  const at = Math.min(output, ready.length);
  return land(withPins(withPinKey(map, at), [...pinsOf(unpin(map, at)), { output: at, source }]));
}

// A key on a constant-speed part lets the speed differ on both sides of a pin; in a ramp it may differ anyway.
function withPinKey(map: RetimeMap, output: number): RetimeMap {
  const ready = compile(map);
  if (output > ready.length || !isConstantSpeed(map.spans[spanIndexAt(ready, output)]!)) return map;
  return splitAt(map, output).map;
}

/**
 * Moves pins that an edit of the whole clip takes along: each to where `place` puts its output time; those it leaves no
 * place for are dropped.
 */
export function carryPins(map: RetimeMap, place: (output: number) => number | undefined): RetimeMap {
  const { length } = compile(map);
  const pins = pinsOf(map).flatMap(({ output, source }) => {
    const to = place(output);
    return to === undefined || to < -TIME_EPSILON || to > length + TIME_EPSILON
      ? []
      : [{ output: Math.max(0, Math.min(length, to)), source }];
  });
  return withPins(map, pins);
}

/**
 * What an edit must do where there are pins: land them again. The spans the edit made keep their speeds if the pins can
 * be met around them; otherwise they give way like the others.
 *
 * @throws EditRefused where the pins cannot be met after the edit
 */
export function holdPins(before: RetimeMap, after: RetimeMap): RetimeMap {
  if (pinsOf(after).length === 0) return after;
  const keyed = pinsOf(after).reduce((map, { output }) => withPinKey(map, output), after);
  if (pinsMet(keyed)) return keyed;
  // By its speeds: what was only cut or moved is a part of what was there.
  const speeds = (span: Span): string => `${span.of} ${span.y.join(' ')}`;
  const old = new Set(before.spans.map(speeds));
  const made = new Set(keyed.spans.filter((span) => !old.has(speeds(span))));
  try {
    return land(keyed, { held: made });
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    return land(keyed);
  }
}
