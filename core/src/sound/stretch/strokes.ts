import { gone, type Bounds } from './attacks';

/** An attack that passes. */
export interface Passing {
  /** Sample of the source at which it begins, and seconds from the run's beginning at which that is heard. */
  sample: number;
  at: number;
  backwards: boolean;
  /** Whether it drowns what rang before (in the source). */
  drowns: boolean;
}

/** Where one stroke gives way to the next: samples of the output, `end` not included. */
export interface Turn {
  start: number;
  end: number;
}

/** What rings from one attack to the next: made for itself, as if neither the attack before had been nor the next one came. */
interface Stroke {
  bounds: Bounds;
  from: Turn;
  to: Turn;
}

/**
 * Strokes from one attack to another. What follows an attack then sets in with it, at once, and does not swell up before; and its
 * waves begin as they do in the source.
 *
 * @param apart samples of the output by which two such attacks are apart at least; others ring within a stroke
 * @param placeOf the sample of the output at which an attack is heard
 * @param turn samples in which one stroke gives way to the next, before an attack (after one that is heard backwards)
 */
export function strokesOf(
  passing: readonly Passing[],
  apart: number,
  placeOf: (passing: Passing) => number,
  turn: number,
): Stroke[] {
  let bounds: Bounds = {};
  let from: Turn = { start: -Infinity, end: -Infinity };
  const strokes: Stroke[] = [];
  for (const passed of passing) {
    const { sample, backwards, drowns } = passed;
    // The waves of what goes on beneath it are not to begin anew.
    if (!drowns) continue;
    const start = placeOf(passed) - (backwards ? 0 : turn);
    if (start - from.start < apart) continue;
    const to = { start, end: start + turn };
    strokes.push({ bounds: bounded(bounds, backwards ? { low: sample } : { high: sample }), from, to });
    bounds = backwards ? { high: sample } : { low: sample };
    from = to;
  }
  return [...strokes, { bounds, from, to: { start: Infinity, end: Infinity } }];
}

// Where sound turns round, the same side is bounded twice, and the first holds.
function bounded(entered: Bounds, left: Bounds): Bounds {
  const { low, high } = { ...left, ...entered };
  return low !== undefined && high !== undefined && low >= high ? entered : { low, high };
}

/** How far a turn has gone at a sample of the output, from 0 to 1. */
export const turned = ({ start, end }: Turn, at: number): number =>
  at < start ? 0 : at >= end ? 1 : gone(at - start, end - start);
