import { DISPLAY_GAMMA, FULL, valueOfSum } from './light';
import type { Lit } from './lit';

/** Bits of a part of a value, and of a weight: values of 0 to 255 take 15 bits then. */
const PART_BITS = 7;
const WEIGHT_BITS = 15;
/** Places of a table of values in light that is changed: a sixteenth of a value each. */
export const LIT_PLACES = 4096;
const PLACE_SHIFT = 3;

/**
 * A weight of light as it counts among values: since light is a power of values, of weighed lights the most is of the value that is the most
 * when it is weighed by the weight's root.
 */
export const valueWeight = (weight: number): number =>
  Math.min(2 ** WEIGHT_BITS - 1, Math.round(2 ** WEIGHT_BITS * weight ** (1 / DISPLAY_GAMMA)));

/** A value of 0 to 255, weighed, in parts: rounded as `i16x8.q15mulr_sat_s` of WebAssembly does. */
export const weighedValue = (value: number, weight: number): number =>
  ((value << PART_BITS) * weight + (1 << (WEIGHT_BITS - 1))) >> WEIGHT_BITS;

/** The value of 0 to 255 that parts stand for. */
export const valueOfParts = (parts: number): number => (parts + (1 << (PART_BITS - 1))) >> PART_BITS;

/** What becomes of values in parts when their light is changed: three tables, red, green, blue, by `litPlace`. */
export function litValues({ times, plus }: Lit): Uint8Array {
  const tables = new Uint8Array(3 * LIT_PLACES);
  for (let place = 0; place < LIT_PLACES; place++) {
    const light = ((place << PLACE_SHIFT) / (255 << PART_BITS)) ** DISPLAY_GAMMA;
    for (let colour = 0; colour < 3; colour++) {
      const lit = light * times[colour]! + plus[colour]!;
      tables[colour * LIT_PLACES + place] = valueOfSum(Math.min(FULL, Math.round(lit * FULL)));
    }
  }
  return tables;
}

/** Where in such a table parts are: the nearest place. */
export const litPlace = (parts: number): number => (parts + (1 << (PLACE_SHIFT - 1))) >> PLACE_SHIFT;
