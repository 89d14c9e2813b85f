import type { RetimeMap, Span } from '@hastig/contract';
import { eases, type Ease } from '../ease';
import { compile } from '../map';
import { constantSpan, isConstantSpeed, meanSpeed, rampSpan } from '../span';
import { rampAtKey } from './ramp';
import { checkRange, cutRange, replaceRange, type Keeps, type OutputRange } from './range';
import { EditRefused } from './refused';
import { setSpeed } from './speed';

/** What a range is given. */
export type RangePace =
  | { give: 'speed'; speed: number; keeps: Keeps }
  /** Its content in so many output frames. */
  | { give: 'duration'; frames: number }
  | { give: 'reverse' }
  /** Its first frame, held for its length; what follows goes on from there. */
  | { give: 'freeze' };

/** The ramps at a range's two edges. */
interface RangeEdges {
  /** Output frames; 0 for none. */
  frames: number;
  ease: Ease;
}

const NO_EDGES: RangeEdges = { frames: 0, ease: eases.linear };

/**
 * Gives a range a speed, a duration, a reverse or a freeze at once, its two edges becoming ramps of one length.
 *
 * The ramps lie over the edges so that nothing outside them moves. A reversed range jumps in the source at both edges, so
 * there it starts from and comes to a standstill instead, passing the same frames in a little more time.
 */
export function paceRange(
  map: RetimeMap,
  range: OutputRange,
  pace: RangePace,
  edges: RangeEdges = NO_EDGES,
): RetimeMap {
  const { from, to } = checkRange(map, range);
  if (!(edges.frames >= 0) || !Number.isFinite(edges.frames)) {
    throw new EditRefused('edges', 'Ramps can’t be shorter than 0 frames.');
  }
  if (pace.give === 'reverse') return reverseGently(map, { from, to }, edges);
  const paced = withPace(map, { from, to }, pace);
  const end = to + compile(paced).length - compile(map).length;
  if (edges.frames === 0) return paced;
  // The later edge first: the earlier one does not move it.
  return rampAtEdge(rampAtEdge(paced, end, edges), from, edges);
}

function withPace(map: RetimeMap, range: OutputRange, pace: Exclude<RangePace, { give: 'reverse' }>): RetimeMap {
  if (pace.give === 'freeze') return setSpeed(map, range, 0, 'length');
  if (pace.give === 'speed') return setSpeed(map, range, pace.speed, pace.keeps);
  if (!(pace.frames > 0) || !Number.isFinite(pace.frames)) {
    throw new EditRefused('frames', 'A range must be longer than 0 frames.');
  }
  const { middleStart, middleEnd } = cutRange(map, range);
  const speed = (middleEnd - middleStart) / (compile(map).ratio * pace.frames);
  return setSpeed(map, range, speed, 'content');
}

function rampAtEdge(map: RetimeMap, at: number, { frames, ease }: RangeEdges): RetimeMap {
  const { times, length } = compile(map);
  if (at < 1e-9 || at > length - 1e-9) return map;
  const index = times.findIndex((time) => Math.abs(time - at) < 1e-6);
  const [before, after] = [map.spans[index - 1], map.spans[index]];
  if (!before || !after || (isConstantSpeed(before) && isConstantSpeed(after) && before.y[0] === after.y[0]))
    return map;
  if (!isConstantSpeed(before) || !isConstantSpeed(after)) {
    throw new EditRefused(
      'edges',
      'A ramp already reaches the edge of this range. Use ramps of 0 frames, or choose a range between ramps.',
    );
  }
  return rampAtKey(map, index, frames, ease);
}

function reverseGently(map: RetimeMap, range: OutputRange, { frames, ease }: RangeEdges): RetimeMap {
  const { middleStart, middleEnd } = cutRange(map, range);
  const { ratio } = compile(map);
  const content = middleEnd - middleStart;
  const speed = -content / (ratio * (range.to - range.from));
  const reversed = setSpeed(map, range, speed, 'content');
  if (frames === 0) return reversed;
  const [first, last] = [rampSpan(0, speed, frames, ease), rampSpan(speed, 0, frames, ease)];
  const rest = -content / (ratio * speed) - (frames * (meanSpeed(first) + meanSpeed(last))) / speed;
  if (!(rest > 0)) throw new EditRefused('edges', 'The ramps are longer than the range. Make them shorter.');
  const spans: Span[] = [first, constantSpan(speed, rest), last];
  return replaceRange(reversed, range, spans, 'stay');
}
