import type { RetimeMap } from '@hastig/contract';
import { checkRange, cutRange, type Keeps, type OutputRange } from '../edit/range';
import { compile } from '../map';
import { EditRefused } from '../edit/refused';
import { spansOfKeys } from '../fit/speeds';
import { fitKeys, type FittedKey } from '../fit/fit-keys';
import { constantSpan } from '../span';
import { layAlong } from './along';

interface FollowOptions {
  /** Speed where it is silent, and where it is loudest; both more than 0. */
  floor: number;
  ceiling: number;
  keeps: Keeps;
}

/**
 * Octaves by which keys may miss what the loudness asks for, and those between two at most: a straight line of speeds is then 0.05
 * octaves from an even course in octaves, so that all is within a tenth.
 */
const TOLERANCE = 0.05;
const STEP = 0.75;
/** More content than the range has that speeds are made for, since keys may miss what the loudness asks for. */
const MORE = 1.15;
/** Times a range's length that it is made to last at most; beyond that the speed stays at the floor. */
const FURTHEST = 16;

/**
 * Follow loudness: the louder it is, the faster a clip runs, between a floor and a ceiling, in even steps of pitch; with as few
 * keys as stay within a tenth of an octave.
 *
 * @param loudness at an output frame of the map (real), 0 to 1
 */
export function followLoudness(
  map: RetimeMap,
  range: OutputRange,
  loudness: (frame: number) => number,
  { floor, ceiling, keeps }: FollowOptions,
): RetimeMap {
  if (!(floor > 0 && ceiling > 0) || !Number.isFinite(floor + ceiling))
    throw new EditRefused('speed', 'Both speeds must be more than 0.');
  const { from, to } = checkRange(map, range);
  const octaves = Math.log2(ceiling / floor);
  const speedAt = (frame: number): number => floor * 2 ** (octaves * loudness(frame));
  const needed = keeps === 'content' ? framesFor(map, { from, to }, speedAt) : to - from;
  return layAlong(map, { from, to }, keeps, (length) => {
    const frames = Math.min(length, needed);
    const steps = Math.max(1, Math.ceil(frames));
    const wanted = Float64Array.from({ length: steps + 1 }, (_, i) => octaves * loudness(from + (i * frames) / steps));
    const keys = inSteps(fitKeys(wanted, TOLERANCE)).map(({ at, value }) => ({ at, value: floor * 2 ** value }));
    const spans = spansOfKeys(keys, steps / frames);
    return length > frames ? [...spans, constantSpan(floor, length - frames)] : spans;
  });
}

// More keys on a long way, evenly, so that no step is greater than `STEP`.
function inSteps(keys: readonly FittedKey[]): FittedKey[] {
  return keys.flatMap((key, index) => {
    const next = keys[index + 1];
    if (!next) return [key];
    const steps = Math.max(1, Math.ceil(Math.abs(next.value - key.value) / STEP));
    return Array.from({ length: steps }, (_, i) => ({
      at: key.at + ((next.at - key.at) * i) / steps,
      value: key.value + ((next.value - key.value) * i) / steps,
    }));
  });
}

// Output frames from a range's start on in which its content passes, and a little more.
function framesFor(map: RetimeMap, range: OutputRange, speedAt: (frame: number) => number): number {
  const { middleStart, middleEnd } = cutRange(map, range);
  const content = (MORE * Math.abs(middleEnd - middleStart)) / compile(map).ratio;
  let passed = 0;
  let frames = 0;
  while (passed < content && frames < FURTHEST * (range.to - range.from)) passed += speedAt(range.from + frames++);
  return Math.max(1, frames);
}
