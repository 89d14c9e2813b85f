import { MOST_FRAMES, type RetimeMap, type Span } from '@hastig/contract';
import { trimDecimals } from '../../time';
import { compile, TIME_EPSILON } from '../map';
import { splitAt } from '../split';
import { inPlaceOf } from '../tracked';
import { EditRefused } from './refused';

/** A stretch of output time in output frames, `from` included, `to` not. */
export interface OutputRange {
  from: number;
  to: number;
}

/**
 * What an edit leaves alone: `content`, the source frames of the range (its output length changes and what
 * follows moves), or `length`, the output length (what follows starts later or earlier in the source).
 */
export type Keeps = 'content' | 'length';

/** Source positions closer than this (source frames) are one; a smaller jump is a rounding error. */
const JUMP_EPSILON = 1e-9;

export function withJump(span: Span, jump: number): Span {
  // Most spans have none; they stay the very objects they are.
  if (span.jump === undefined && Math.abs(jump) < JUMP_EPSILON) return span;
  const { jump: _old, ...rest } = span;
  return Math.abs(jump) < JUMP_EPSILON ? rest : { ...rest, jump };
}

/** Throws unless the range lies in the map and is not empty. Ends a rounding error outside are moved in. */
export function checkRange(map: RetimeMap, range: OutputRange): OutputRange {
  const { length } = compile(map);
  if (!(range.from >= -TIME_EPSILON && range.to <= length + TIME_EPSILON)) {
    throw new EditRefused('range', `The range must be within the clip’s ${trimDecimals(length, 3)} output frames.`);
  }
  if (!(range.to - range.from > TIME_EPSILON)) throw new EditRefused('range', 'The range is empty.');
  return { from: Math.max(0, range.from), to: Math.min(length, range.to) };
}

/** Throws where a clip would last longer than any may; at speeds next to nothing, content lasts next to for ever. */
export function refuseEndless(frames: number): void {
  if (!(frames <= MOST_FRAMES)) throw new EditRefused('range', `The clip would be longer than ${MOST_FRAMES} frames.`);
}

/** A map with its first jump in `start`, and without spans and jumps that are rounding errors. */
export function normalize(map: RetimeMap, start: number, spans: readonly Span[]): RetimeMap {
  const kept = spans.filter((span) => span.frames > TIME_EPSILON);
  if (kept.length === 0) throw new EditRefused('range', 'Nothing would be left of the clip.');
  refuseEndless(kept.reduce((sum, { frames }) => sum + frames, 0));
  const [first, ...rest] = kept as [Span, ...Span[]];
  return {
    ...map,
    start: start + (first.jump ?? 0),
    spans: [withJump(first, 0), ...rest.map((span) => withJump(span, span.jump ?? 0))],
  };
}

/** A range cut out of its map: the spans before, in and after it, and where each part starts in the source. */
interface CutRange {
  head: Span[];
  middle: Span[];
  tail: Span[];
  /** Source position at which the head ends, before any jump; the map's start where there is no head. */
  headEnd: number;
  /** Source position of the range's first instant. */
  middleStart: number;
  /** Source position at the range's end, before any jump there. */
  middleEnd: number;
  /** Source position at which the tail starts, after its jump. */
  tailStart: number;
}

export function cutRange(map: RetimeMap, range: OutputRange): CutRange {
  const first = splitAt(map, range.from);
  const last = splitAt(first.map, range.to);
  const { spans } = last.map;
  const ready = compile(last.map);
  const [from, to] = [first.index, last.index];
  return {
    head: spans.slice(0, from),
    middle: spans.slice(from, to),
    tail: spans.slice(to),
    headEnd: from === 0 ? map.start : ready.ends[from - 1]!,
    middleStart: ready.positions[from]!,
    middleEnd: to === 0 ? map.start : ready.ends[to - 1]!,
    tailStart: ready.positions[to]!,
  };
}

/**
 * Puts other spans in the place of a range.
 *
 * @param middle the new spans; may be empty (the range is taken out)
 * @param resume `follow`: what comes after goes on from where the new spans end; `stay`: it shows the source
 *   frames it showed, by a jump where it must
 * @param middleStart source position at which the new spans start; where the old ones did, unless given
 */
export function replaceRange(
  map: RetimeMap,
  range: OutputRange,
  middle: readonly Span[],
  resume: 'follow' | 'stay',
  middleStart?: number,
): RetimeMap {
  const cut = cutRange(map, range);
  const start = middleStart ?? cut.middleStart;
  const placed = inPlaceOf(cut.middle, middle).map((span, index) =>
    index === 0 ? withJump(span, start - cut.headEnd) : span,
  );
  let { tail } = cut;
  if (resume === 'stay' && tail.length > 0) {
    const before = [...cut.head, ...placed];
    const end = before.length === 0 ? map.start : compile({ ...map, spans: before }).ends[before.length - 1]!;
    tail = tail.map((span, index) => (index === 0 ? withJump(span, cut.tailStart - end) : span));
  }
  return normalize(map, map.start, [...cut.head, ...placed, ...tail]);
}
