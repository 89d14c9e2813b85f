import type { RetimeMap, Span } from '@hastig/contract';
import { compile, positionAt } from '../map';
import { timesAt } from '../inverse';
import { refuseLocked } from '../lock';
import { spanTravel } from '../span';
import { checkRange, cutRange, replaceRange, type Keeps, type OutputRange } from './range';
import { EditRefused } from './refused';

const LEAST_FACTOR = 1e-6;

/**
 * Puts spans in the place of a range, their speeds as given.
 *
 * @param keeps `length`: what follows goes on from where they end in the source; `content`: the speed spans among them
 *   last longer or shorter, in proportion, until all pass what the range passed before
 */
export function placeSpans(map: RetimeMap, range: OutputRange, spans: readonly Span[], keeps: Keeps): RetimeMap {
  const cut = cutRange(map, range);
  refuseLocked(cut.middle);
  if (keeps === 'length') return replaceRange(map, range, spans, 'follow');
  const { ratio } = compile(map);
  const content = cut.middleEnd - cut.middleStart;
  let [fixed, paced] = [0, 0];
  spans.forEach((span, index) => {
    if (index > 0) fixed += span.jump ?? 0;
    if (span.of === 'position') fixed += spanTravel(span, ratio);
    else paced += spanTravel(span, ratio);
  });
  const factor = paced === 0 && content === fixed ? 1 : (content - fixed) / paced;
  if (!(factor > LEAST_FACTOR && Number.isFinite(factor))) {
    throw new EditRefused('speed', 'These speeds can’t reach the same content. Preserve the duration instead.');
  }
  const stretched = spans.map((span) => (span.of === 'speed' ? { ...span, frames: span.frames * factor } : span));
  return replaceRange(map, range, stretched, 'stay');
}

/**
 * Lays spans over a clip from a moment on.
 *
 * @param keeps `length`: they cover as many output frames as they last, and what follows goes on from where they end in
 *   the source; `content`: they take the place of the source frames they pass, and what follows moves
 */
export function overlaySpans(map: RetimeMap, at: number, spans: readonly Span[], keeps: Keeps): RetimeMap {
  const { length, ratio } = compile(map);
  const frames = spans.reduce((sum, span) => sum + span.frames, 0);
  let to = Math.min(length, at + frames);
  let resume: 'follow' | 'stay' = 'follow';
  if (keeps === 'content') {
    const end = positionAt(map, at) + spans.reduce((sum, span) => sum + spanTravel(span, ratio), 0);
    const reached = timesAt(map, end).find((time) => time.from > at);
    // Where the clip ends before that, they are the last of it.
    to = reached?.from ?? length;
    resume = reached ? 'stay' : 'follow';
  }
  if (to - at > 1e-9) refuseLocked(cutRange(map, checkRange(map, { from: at, to })).middle);
  return replaceRange(map, { from: at, to }, spans, resume);
}
