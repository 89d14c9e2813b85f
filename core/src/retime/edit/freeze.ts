import type { RetimeMap } from '@hastig/contract';
import { compile } from '../map';
import { constantSpan } from '../span';
import { replaceRange } from './range';
import { EditRefused } from './refused';

/**
 * Holds the frame at a moment.
 *
 * @param at output time, in output frames
 * @param frames how long, in output frames
 * @param keeps `content`: the freeze is inserted and what follows moves; `length`: it lies over what follows, and
 *   what comes after the freeze stays where it was
 */
export function freeze(map: RetimeMap, at: number, frames: number, keeps: 'content' | 'length'): RetimeMap {
  const { length } = compile(map);
  if (!(frames > 0) || !Number.isFinite(frames)) throw new EditRefused('frames', 'A freeze lasts more than 0 frames.');
  if (!(at >= 0 && at <= length)) throw new EditRefused('at', 'The moment to hold lies outside the clip.');
  if (keeps === 'content') return replaceRange(map, { from: at, to: at }, [constantSpan(0, frames)], 'stay');
  if (!(at < length)) throw new EditRefused('at', 'Nothing follows the end of the clip that a freeze could lie over.');
  const to = Math.min(length, at + frames);
  return replaceRange(map, { from: at, to }, [constantSpan(0, to - at)], 'stay');
}
