import type { RetimeMap } from '@hastig/contract';
import { refuseLocked } from '../lock';
import { positionAfter, positionBefore } from '../map';
import { mirrorSpan } from '../span';
import { turnedMemory } from '../tracked';
import { checkRange, cutRange, replaceRange, withJump, type OutputRange } from './range';

/**
 * Plays a range backwards. Its output length stays and its speeds are mirrored; all around it stays as it was.
 *
 * Ranges are half open, so the first position shown is not `out` but one frame less: `out − 1`, then down to
 * `in`. Where a frame stands for several output frames the step is smaller than one frame, and the shift is
 * that step, so that no frame outside the range appears. The shift is the same seen from both ends, hence
 * reversing twice gives back the map.
 */
export function reverseRange(map: RetimeMap, range: OutputRange): RetimeMap {
  const { from, to } = checkRange(map, range);
  const { middle, middleStart, middleEnd } = cutRange(map, { from, to });
  refuseLocked(middle);
  const stride = Math.min(1, to - from);
  const firstStep = Math.abs(positionBefore(map, from + stride) - middleStart);
  const lastStep = Math.abs(middleEnd - positionAfter(map, to - stride));
  const shift = Math.min(1, firstStep, lastStep) * Math.sign(middleEnd - middleStart);
  const mirrored = middle
    .map((span, index) => withJump(turnedMemory(span, mirrorSpan(span)), -(middle[index + 1]?.jump ?? 0)))
    .reverse();
  return replaceRange(map, { from, to }, mirrored, 'stay', middleEnd - shift);
}
