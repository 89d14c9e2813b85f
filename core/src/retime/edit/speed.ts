import type { RetimeMap, Span } from '@hastig/contract';
import { refuseLocked } from '../lock';
import { compile } from '../map';
import { constantSpan, isConstantSpeed, spanTravel, withEndSpeeds } from '../span';
import { checkRange, cutRange, replaceRange, normalize, type Keeps, type OutputRange } from './range';
import { EditRefused } from './refused';
import { reverseRange } from './reverse';

const EPSILON = 1e-9;

function checkSpeed(speed: number, keeps: Keeps): void {
  if (!Number.isFinite(speed)) throw new EditRefused('speed', 'The speed must be a number.');
  if (speed === 0 && keeps === 'content') {
    throw new EditRefused('speed', 'At 0% the content never ends. Preserve the duration instead, or insert a freeze.');
  }
}

/**
 * Gives a range one constant speed.
 *
 * Keeping the content, the range lasts `travel / (ratio · speed)`, exactly, so its end may fall between two
 * output frames; a speed against the content's direction plays it backwards. Keeping the length, the
 * range shows more or less of the source and what follows goes on from there.
 *
 * @param range output frames
 * @param speed 1 is real time; 0 only where the length is kept
 */
export function setSpeed(map: RetimeMap, range: OutputRange, speed: number, keeps: Keeps): RetimeMap {
  checkSpeed(speed, keeps);
  const { from, to } = checkRange(map, range);
  refuseLocked(cutRange(map, { from, to }).middle);
  if (keeps === 'length') return replaceRange(map, { from, to }, [constantSpan(speed, to - from)], 'follow');
  const { middleStart, middleEnd } = cutRange(map, { from, to });
  const content = middleEnd - middleStart;
  if (Math.abs(content) < EPSILON) {
    throw new EditRefused(
      'speed',
      'This range stands still, so no speed preserves its content. Preserve the duration instead.',
    );
  }
  const frames = Math.abs(content / (compile(map).ratio * speed));
  const along = constantSpan(Math.sign(content) * Math.abs(speed), frames);
  const paced = replaceRange(map, { from, to }, [along], 'stay');
  return Math.sign(speed) === Math.sign(content) ? paced : reverseRange(paced, { from, to: from + frames });
}

function isJoinedRamp(span: Span | undefined): span is Span {
  return span !== undefined && span.of === 'speed' && !isConstantSpeed(span);
}

/**
 * Gives the constant-speed part at span `index` another speed; ramps joined to it keep their lengths and lead to the new
 * speed. Keeping the content, the constant-speed part's own length takes up the difference.
 *
 * @param index of a constant-speed part in `map.spans`
 */
export function setLevelSpeed(map: RetimeMap, index: number, speed: number, keeps: Keeps): RetimeMap {
  checkSpeed(speed, keeps);
  const level = map.spans[index];
  if (!level || !isConstantSpeed(level)) throw new EditRefused('span', 'This part doesn’t hold one speed.');
  const before = map.spans[index - 1];
  const after = map.spans[index + 1];
  const old = level.y[0];
  const first =
    isJoinedRamp(before) && before.y[3] === old && !level.jump ? withEndSpeeds(before, before.y[0], speed) : before;
  const last =
    isJoinedRamp(after) && after.y[0] === old && !after.jump ? withEndSpeeds(after, speed, after.y[3]) : after;
  refuseLocked([level, first === before ? undefined : before, last === after ? undefined : after]);
  let { frames } = level;
  if (keeps === 'content') {
    const { ratio } = compile(map);
    const travel = (span: Span | undefined): number => (span ? spanTravel(span, ratio) : 0);
    const content = travel(before) + travel(level) + travel(after);
    frames = (content - travel(first) - travel(last)) / (ratio * speed);
    if (!(frames > EPSILON)) {
      throw new EditRefused(
        'speed',
        'At this speed the ramps beside it use up its content. Shorten them, or preserve the duration.',
      );
    }
  }
  const spans = map.spans.slice();
  if (first) spans[index - 1] = first;
  spans[index] = { ...level, ...constantSpan(speed, frames) };
  if (last) spans[index + 1] = last;
  return normalize(map, map.start, spans);
}

/**
 * Gives the part between two keys one speed: a constant-speed part keeps its joined ramps (`setLevelSpeed`), any other part, or one
 * that shall run the other way, becomes a constant-speed part (`setSpeed`).
 *
 * @param index of the span in `map.spans`
 */
export function setPartSpeed(map: RetimeMap, index: number, speed: number, keeps: Keeps): RetimeMap {
  const span = map.spans[index];
  if (!span) throw new EditRefused('span', 'This part doesn’t exist.');
  const sameWay = keeps === 'length' || speed * span.y[0] > 0;
  if (isConstantSpeed(span) && sameWay) return setLevelSpeed(map, index, speed, keeps);
  const { times } = compile(map);
  return setSpeed(map, { from: times[index]!, to: times[index + 1]! }, speed, keeps);
}
