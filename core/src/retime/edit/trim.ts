import type { RetimeMap } from '@hastig/contract';
import { showingsOf } from '../inverse';
import { compile, speedAt, speedBefore } from '../map';
import { constantSpan } from '../span';
import { carryPins } from '../land/pins';
import { replaceRange, normalize, withJump } from './range';
import { EditRefused } from './refused';

/** Starts the clip at output time `t`; what came before is dropped. */
export function trimStart(map: RetimeMap, t: number): RetimeMap {
  const { length } = compile(map);
  if (!(t >= 0 && t < length)) throw new EditRefused('at', 'The new start is outside the clip.');
  return carryPins(replaceRange(map, { from: 0, to: t }, [], 'stay'), (output) => output - t);
}

/** Ends the clip at output time `t` (the first frame no longer shown). */
export function trimEnd(map: RetimeMap, t: number): RetimeMap {
  const { length } = compile(map);
  if (!(t > 0 && t <= length)) throw new EditRefused('at', 'The new end is outside the clip.');
  return carryPins(replaceRange(map, { from: t, to: length }, [], 'stay'), (output) => output);
}

/** Slower than this is a standstill, which leads nowhere. */
const STANDSTILL = 1e-9;

function checkFrame(map: RetimeMap, frame: number): void {
  if (Number.isInteger(frame) && frame >= 0 && frame < map.sourceFrames) return;
  throw new EditRefused('frame', `The source has frames 0 to ${map.sourceFrames - 1}.`);
}

/**
 * Makes `frame` the first source frame shown: where it appears, all before is dropped; where it lies before the
 * clip, the clip is lengthened at the speed it starts with.
 */
export function setFirstFrame(map: RetimeMap, frame: number): RetimeMap {
  checkFrame(map, frame);
  const shown = showingsOf(map, frame)[0];
  if (shown) return shown.from === 0 ? map : trimStart(map, shown.from);
  const speed = speedAt(map, 0);
  const travel = map.start - frame;
  if (!(speed * travel > 0) || Math.abs(speed) < STANDSTILL) {
    throw new EditRefused(
      'frame',
      `The clip never shows source frame ${frame}, and extending its start doesn’t reach it.`,
    );
  }
  const frames = travel / (compile(map).ratio * speed);
  return carryPins(normalize(map, frame, [constantSpan(speed, frames), ...map.spans]), (output) => output + frames);
}

/**
 * Makes `frame` the last source frame shown: all after its last appearance is dropped, or the clip is lengthened
 * at the speed it ends with, up to the end of that frame.
 */
export function setLastFrame(map: RetimeMap, frame: number): RetimeMap {
  checkFrame(map, frame);
  const { length, ratio, ends, count } = compile(map);
  const shown = showingsOf(map, frame).at(-1);
  if (shown) return shown.to >= length ? map : trimEnd(map, shown.to);
  const speed = speedBefore(map, length);
  const end = ends[count - 1]!;
  const travel = (speed < 0 ? frame : frame + 1) - end;
  if (!(speed * travel > 0) || Math.abs(speed) < STANDSTILL) {
    throw new EditRefused(
      'frame',
      `The clip never shows source frame ${frame}, and extending its end doesn’t reach it.`,
    );
  }
  return normalize(map, map.start, [...map.spans, withJump(constantSpan(speed, travel / (ratio * speed)), 0)]);
}
