import type { Flash } from '@hastig/contract';
import { lightOf, type Lit } from '../exposure';

/** Frames that a flash has unless told, and those of them that lie before its cut or mark (common practice: 6 to 8, 3 before). */
export const FLASH_FRAMES = 8;
export const FLASH_BEFORE = 3;

/**
 * How far a flash has come, 0 to 1: from nothing at the frame before it, to all of it at its peak, to nothing at the frame after it.
 *
 * @param at frames (or positions) since its stretch began
 * @param frames of its stretch
 */
export function flashCourse({ curve, peak }: Pick<Flash, 'curve' | 'peak'>, at: number, frames: number): number {
  if (at < -EPSILON || at >= frames - EPSILON) return 0;
  const top = Math.min(peak, frames - 1);
  const share = at <= top ? (at + 1) / (top + 1) : (frames - at) / (frames - top);
  if (curve === 'smooth') return share * share * (3 - 2 * share);
  return curve === 'sharp' ? share * share : share;
}

/** Less than a rounding error of a place in a clip. */
const EPSILON = 1e-6;

/**
 * What a flash makes of light at a moment; undefined where it changes nothing. `light`: each colour's light times
 * 1 + (2^(stops · course) − 1) · tint, as a shutter that is open so many stops longer lets in; `dip`: (1 − s) times the picture's
 * and s times the colour's light, s being strength · course.
 *
 * @param at frames (or positions) since its stretch began
 */
export function litBy(flash: Flash, at: number): Lit | undefined {
  const { way, strength, colour, over } = flash;
  const course = flashCourse(flash, at, over.to - over.from);
  if (course === 0 || strength === 0) return undefined;
  const tint = [1, 3, 5].map((place) => lightOf(parseInt(colour.slice(place, place + 2), 16)));
  if (way === 'light') {
    const more = 2 ** (strength * course) - 1;
    return { times: three(tint, (share) => 1 + more * share), plus: [0, 0, 0] };
  }
  const share = Math.min(1, strength * course);
  return { times: [1 - share, 1 - share, 1 - share], plus: three(tint, (light) => share * light) };
}

const three = (values: readonly number[], change: (value: number) => number): [number, number, number] => [
  change(values[0]!),
  change(values[1]!),
  change(values[2]!),
];
