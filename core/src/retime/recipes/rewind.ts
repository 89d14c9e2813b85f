import type { RetimeMap, Span } from '@hastig/contract';
import type { Ease } from '../ease';
import { timesAt } from '../inverse';
import { compile, positionBefore, speedAt, speedBefore } from '../map';
import { constantSpan, meanSpeed, rampSpan } from '../span';
import { cutRange, replaceRange } from '../edit/range';
import { EditRefused } from '../edit/refused';

interface RewindOptions {
  /** Source frames to run back. */
  back: number;
  /** How fast, as a factor above 0. */
  speed: number;
  /** Output frames of the ramp at each end. */
  ramp: number;
  ease: Ease;
}

/** Rewind: at a moment the clip runs back fast, with a ramp at both ends, and goes on forward from there. */
export function rewind(map: RetimeMap, at: number, { back, speed, ramp, ease }: RewindOptions): RetimeMap {
  const { length, ratio } = compile(map);
  if (!(at > 0 && at <= length)) throw new EditRefused('at', 'A rewind needs part of the clip before it.');
  if (!(back > 0)) throw new EditRefused('back', 'A rewind must go back more than 0 frames.');
  if (!(speed > 0)) throw new EditRefused('speed', 'The rewind speed must be more than 0.');
  if (!(ramp >= 0)) throw new EditRefused('ramp', 'A ramp can’t be shorter than 0 frames.');
  const here = positionBefore(map, at);
  const start = timesAt(map, here - back).findLast(({ to }) => to < at)?.to;
  if (start === undefined) {
    throw new EditRefused('back', `The clip doesn’t show source frame ${Math.round(here - back)} before the playhead.`);
  }
  const ramps: [Span, Span] = [
    rampSpan(speedBefore(map, at), -speed, ramp, ease),
    rampSpan(-speed, speedAt(map, start), ramp, ease),
  ];
  const drift = ramp * (meanSpeed(ramps[0]) + meanSpeed(ramps[1]));
  const frames = (back / ratio + drift) / speed;
  if (!(frames > 0)) throw new EditRefused('ramp', 'The ramps alone go back further than that. Make them shorter.');
  const run = ramp > 0 ? [ramps[0], constantSpan(-speed, frames), ramps[1]] : [constantSpan(-speed, frames)];
  const again = cutRange(map, { from: start, to: at }).middle.map((span, index) =>
    index === 0 ? withoutJump(span) : span,
  );
  return replaceRange(map, { from: at, to: at }, [...run, ...again], 'stay', here);
}

function withoutJump({ jump: _jump, ...span }: Span): Span {
  return span;
}
