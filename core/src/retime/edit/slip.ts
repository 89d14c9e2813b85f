import type { RetimeMap } from '@hastig/contract';
import { compile, sourceShortages } from '../map';
import { givingWay, landWindow } from '../land/window';
import { refuseLocked } from '../lock';
import { isConstantSpeed, spanEase } from '../span';
import { EditRefused } from './refused';

/**
 * Slips a key in the source: another source position stands at its output time, and the speeds on both sides change as
 * little as they can. Everything beyond them stays.
 *
 * @param index of the span after the key; 0 slips the clip's start, the count its end
 * @param source source position, in source frames (real)
 */
export function slipKey(map: RetimeMap, index: number, source: number): RetimeMap {
  const { times, positions, ends, count } = compile(map);
  if (!(index >= 0 && index <= count)) throw new EditRefused('key', 'This key doesn’t exist.');
  if (!(source >= 0 && source <= map.sourceFrames)) {
    throw new EditRefused('source', `The source has frames 0 to ${map.sourceFrames - 1}.`);
  }
  const left = index > 0 ? givingWay(map, index - 1, -1) : [];
  const right = index < count ? givingWay(map, index, 1) : [];
  // A jump at the key stays as long as it is: both sides move together.
  const by = source - positions[index]!;
  const moved = index === 0 ? { ...map, start: map.start + by } : map;
  const wanted = [
    ...(left.length > 0
      ? [{ from: times[left.at(-1)!]!, to: times[index]!, travel: ends[index - 1]! + by - positions[left.at(-1)!]! }]
      : []),
    ...(right.length > 0
      ? [
          {
            from: times[index]!,
            to: times[right.at(-1)! + 1]!,
            travel: ends[right.at(-1)!]! - positions[index]! - by,
          },
        ]
      : []),
  ];
  refuseLocked([map.spans[index - 1], map.spans[index]]);
  return landWindow(
    moved,
    new Set([...left, ...right]),
    wanted,
    'The speeds beside this key can’t reach that frame without running backwards. Choose a nearer frame, or split the key.',
  );
}

/**
 * Moves one edge of a ramp in output time, the other edge and everything outside the ramp and the constant-speed part on that side
 * staying; the constant-speed part's speed takes up what the ramp passes more or less.
 *
 * @param index of the ramp, between two constant-speed parts
 * @param side −1 the edge where it begins, 1 where it ends
 * @param frames new length of the ramp in output frames
 */
export function moveRampEdge(map: RetimeMap, index: number, side: -1 | 1, frames: number): RetimeMap {
  const [ramp, level] = [map.spans[index], map.spans[index + side]];
  if (!ramp || !level || !spanEase(ramp) || !isConstantSpeed(level)) {
    throw new EditRefused('span', 'Only a ramp beside a constant speed can be widened.');
  }
  refuseLocked([ramp, level]);
  const rest = level.frames - (frames - ramp.frames);
  if (!(frames > 0)) throw new EditRefused('frames', 'A ramp must be longer than 0 frames.');
  if (!(rest > 0)) throw new EditRefused('frames', 'The ramp would use up the part beside it.');
  const outer = givingWay(map, index + side, side);
  const free = [index, ...outer];
  const [first, last] = [Math.min(...free), Math.max(...free)];
  const { positions, ends } = compile(map);
  const spans = map.spans.slice();
  spans[index] = { ...ramp, frames };
  spans[index + side] = { ...level, frames: rest };
  const resized = { ...map, spans };
  const { times } = compile(resized);
  const wanted = { from: times[first]!, to: times[last + 1]!, travel: ends[last]! - positions[first]! };
  return landWindow(
    resized,
    new Set(free),
    [wanted],
    'A ramp this wide would make the part beside it run backwards. Make it narrower.',
  );
}

/**
 * Slips all of a map in the source: other source frames under the same curve, pins along with them.
 *
 * @param by source frames (real), positive for what comes later
 * @throws EditRefused where more of the source would be missing than before
 */
export function slipMap(map: RetimeMap, by: number): RetimeMap {
  const { pins } = map;
  const slipped: RetimeMap = {
    ...map,
    start: map.start + by,
    ...(pins && { pins: pins.map((pin) => ({ ...pin, source: pin.source + by })) }),
  };
  const missing = (one: RetimeMap): number => sourceShortages(one).reduce((sum, { frames }) => sum + frames, 0);
  if (missing(slipped) > missing(map)) {
    throw new EditRefused('by', `The source has frames 0 to ${map.sourceFrames - 1}. The slip goes past them.`);
  }
  return slipped;
}
