import type { RetimeMap, Span } from '@hastig/contract';
import { timesAt } from '../inverse';
import { refuseLocked } from '../lock';
import { compile } from '../map';
import { splitAt } from '../split';
import { checkRange, cutRange, replaceRange, type Keeps, type OutputRange } from '../edit/range';
import { EditRefused } from '../edit/refused';

/** Output frames of spans that go on until some content has passed: longer than anybody works with, short enough to count. */
const FOR_EVER = 10_000_000;

/**
 * Lays speeds along a range that are tied to moments of its output, as beats are.
 *
 * @param spans for a length of output frames, counted from the range's start: as long as the range, or without end where the
 *   content is kept
 * @param keeps `length`: the range lasts as long as it did, and what follows goes on from where the speeds lead; `content`: the
 *   speeds go on, past the range's end if need be, until all that was in it has been shown
 */
export function layAlong(
  map: RetimeMap,
  range: OutputRange,
  keeps: Keeps,
  spans: (frames: number) => Span[],
): RetimeMap {
  const { from, to } = checkRange(map, range);
  const cut = cutRange(map, { from, to });
  refuseLocked(cut.middle);
  if (keeps === 'length') return replaceRange(map, { from, to }, spans(to - from), 'follow');
  const long: RetimeMap = { ...map, start: cut.middleStart, spans: spans(FOR_EVER) };
  const reached = timesAt(long, cut.middleEnd).find((time) => time.from > 1e-9)?.from;
  if (reached === undefined || reached > FOR_EVER - 1) {
    throw new EditRefused('speed', 'These speeds never show all of the content. Preserve the duration instead.');
  }
  const { map: ended, index } = splitAt(long, reached);
  return replaceRange(map, { from, to }, ended.spans.slice(0, index), 'stay');
}

/** Moments inside a range, counted from its start; those at its very end are outside. */
export function momentsAlong(moments: readonly number[], from: number, frames: number): number[] {
  return moments.map((at) => at - from).filter((at) => at > -1e-9 && at < frames - 1e-9);
}

/** Throws where there is nothing to lay speeds on. */
export function needMoments(map: RetimeMap, moments: readonly number[], { from, to }: OutputRange): void {
  if (momentsAlong(moments, from, Math.min(to, compile(map).length) - from).length === 0) {
    throw new EditRefused('marks', 'There are no markers in this range. Set some in Beats first.');
  }
}
