import type { RetimeMap } from '@hastig/contract';
import { rampSpan, constantSpan } from '../span';
import { placeSpans } from './place';
import { checkRange, type Keeps } from './range';
import { EditRefused } from './refused';

/** A point of a drawn speed curve. */
interface DrawnPoint {
  /** Output frame. */
  at: number;
  /** 1 is real time. */
  speed: number;
}

/**
 * Replaces the speeds between the first and the last point by straight lines from point to point.
 *
 * @param points at least two, their frames rising
 * @param keeps `length`: what follows starts elsewhere in the source; `content`: the lines are stretched in time until they
 *   pass what was there before
 */
export function drawSpeeds(map: RetimeMap, points: readonly DrawnPoint[], keeps: Keeps): RetimeMap {
  if (points.length < 2) throw new EditRefused('points', 'A drawn curve needs at least two points.');
  const range = checkRange(map, { from: points[0]!.at, to: points.at(-1)!.at });
  const spans = points.slice(1).map((next, index) => {
    const before = points[index]!;
    const frames = next.at - before.at;
    if (!(frames > 0)) throw new EditRefused('points', 'A drawn curve runs from left to right.');
    return before.speed === next.speed ? constantSpan(next.speed, frames) : rampSpan(before.speed, next.speed, frames);
  });
  return placeSpans(map, range, spans, keeps);
}
