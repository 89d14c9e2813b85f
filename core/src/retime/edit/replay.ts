import type { RetimeMap } from '@hastig/contract';
import { scaleSpan } from '../span';
import { checkRange, cutRange, replaceRange, withJump, type OutputRange } from './range';
import { EditRefused } from './refused';
import { reverseRange } from './reverse';

/** `again`: the range runs forward once more; `back-and-forth`: it runs back and then forward once more. */
export type ReplayWay = 'again' | 'back-and-forth';

/**
 * Shows a range once more right after it; all else stays and moves back.
 *
 * @param speed of the replay as a factor of what the range runs at, above 0
 */
export function replay(map: RetimeMap, range: OutputRange, way: ReplayWay, speed: number): RetimeMap {
  if (!(speed > 0) || !Number.isFinite(speed)) throw new EditRefused('speed', 'The replay speed must be more than 0.');
  const { from, to } = checkRange(map, range);
  const { middle, middleStart, middleEnd } = cutRange(map, { from, to });
  const back = middleStart - middleEnd;
  const once = middle.map((span, index) => withJump(scaleSpan(span, 1 / speed), index === 0 ? back : (span.jump ?? 0)));
  const frames = (to - from) / speed;
  const at = { from: to, to };
  if (way === 'again') return replaceRange(map, at, once, 'stay', middleStart);
  const twice = replaceRange(map, at, [...once, ...once], 'stay', middleStart);
  return reverseRange(twice, { from: to, to: to + frames });
}
