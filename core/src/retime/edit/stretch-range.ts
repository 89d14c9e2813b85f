import type { RetimeMap } from '@hastig/contract';
import { carryPins } from '../land/pins';
import { refuseLocked } from '../lock';
import { compile } from '../map';
import { scaleSpan } from '../span';
import { checkRange, cutRange, replaceRange, type OutputRange } from './range';
import { EditRefused } from './refused';

/**
 * Makes a range last another number of output frames. Its content and the shape of its curve stay; what comes before stays as it
 * is, what follows moves. Pins go along.
 *
 * @param frames new length of the range in output frames, greater than 0
 */
export function stretchRange(map: RetimeMap, range: OutputRange, frames: number): RetimeMap {
  if (!(frames > 0) || !Number.isFinite(frames))
    throw new EditRefused('frames', 'A range must be longer than 0 frames.');
  const { from, to } = checkRange(map, range);
  const { middle } = cutRange(map, { from, to });
  refuseLocked(middle);
  const factor = frames / (to - from);
  const stretched = replaceRange(
    map,
    { from, to },
    middle.map((span) => scaleSpan(span, factor)),
    'stay',
  );
  return carryPins({ ...stretched, ...(map.pins && { pins: map.pins }) }, (output) =>
    output <= from ? output : output >= to ? output + frames - (to - from) : from + (output - from) * factor,
  );
}

/** The mean speed of a range: source frames that pass over those that would at real time; negative where it runs backwards. */
export function rangeSpeed(map: RetimeMap, range: OutputRange): number {
  const { from, to } = checkRange(map, range);
  const { middle, middleStart, middleEnd } = cutRange(map, { from, to });
  const jumps = middle.slice(1).reduce((sum, { jump = 0 }) => sum + jump, 0);
  return (middleEnd - middleStart - jumps) / (compile(map).ratio * (to - from));
}
