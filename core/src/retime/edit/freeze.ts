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
  if (!(frames > 0) || !Number.isFinite(frames))
    throw new EditRefused('frames', 'A freeze must be longer than 0 frames.');
  if (!(at >= 0 && at <= length)) throw new EditRefused('at', 'The frame to freeze is outside the clip.');
  if (keeps === 'content') return replaceRange(map, { from: at, to: at }, [constantSpan(0, frames)], 'stay');
  if (!(at < length)) throw new EditRefused('at', 'A freeze can’t overwrite past the end of the clip.');
  const to = Math.min(length, at + frames);
  return replaceRange(map, { from: at, to }, [constantSpan(0, to - at)], 'stay');
}
