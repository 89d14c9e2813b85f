import type { RetimeMap, Span } from '@hastig/contract';
import { splitCubic, solveTime, timeCoefficients, isLinearTime } from './bezier';
import { compile, spanIndexAt, TIME_EPSILON } from './map';
import { constantSpan, isConstantSpeed } from './span';
import { shareMemory } from './tracked';

type Four = [number, number, number, number];

/** A cubic piece in the plane (time, value), time in 0…1 of the span it was cut from. */
interface Piece {
  time: Four;
  value: Four;
}

const HANDLE_TOLERANCE = 1e-12;
/** Two cuts at the flattest point are enough for any legal span; the bound only stops rounding errors. */
const MOST_CUTS = 8;

function handles({ time: [start, first, second, end] }: Piece): [number, number] {
  return [(first - start) / (end - start), (second - start) / (end - start)];
}

function cutPiece(piece: Piece, u: number): [Piece, Piece] {
  const [time, value] = [splitCubic(piece.time, u), splitCubic(piece.value, u)];
  return [
    { time: time[0], value: value[0] },
    { time: time[1], value: value[1] },
  ];
}

/**
 * A part of a rising cubic still rises, but with strongly crossed handles (x1 much greater than x2) its own
 * handles may lie outside it, where no span's may. Such a part is cut where time is flattest, into parts whose
 * handles lie inside.
 */
function withHandlesInside(piece: Piece, cuts = 0): Piece[] {
  const [x1, x2] = handles(piece);
  const inside = (x: number): boolean => x >= -HANDLE_TOLERANCE && x <= 1 + HANDLE_TOLERANCE;
  if ((inside(x1) && inside(x2)) || cuts >= MOST_CUTS) return [piece];
  const [, a2, a3] = timeCoefficients(x1, x2);
  const flattest = -a2 / (3 * a3);
  const u = flattest > 0.01 && flattest < 0.99 ? flattest : 0.5;
  return cutPiece(piece, u).flatMap((part) => withHandlesInside(part, cuts + 1));
}

function toSpan(piece: Piece, span: Span): Span {
  const unit = (x: number): number => Math.min(1, Math.max(0, x));
  const [x1, x2] = handles(piece);
  const origin = span.of === 'position' ? piece.value[0] : 0;
  return {
    of: span.of,
    frames: (piece.time[3] - piece.time[0]) * span.frames,
    x: [unit(x1), unit(x2)],
    y: piece.value.map((value) => value - origin) as Four,
  };
}

/**
 * A span cut at `at` output frames from its start (0 < at < frames), without any change of position: de Casteljau
 * on both coordinates.
 *
 * @returns the spans before and after the cut; one each, except for a span with crossed handles
 */
export function splitSpan(span: Span, at: number): [Span[], Span[]] {
  const rest = span.frames - at;
  let parts: [Span[], Span[]];
  if (isConstantSpeed(span)) {
    parts = [[constantSpan(span.y[0], at)], [constantSpan(span.y[0], rest)]];
  } else {
    const s = at / span.frames;
    const [x1, x2] = span.x;
    const u = isLinearTime(x1, x2) ? s : solveTime(...timeCoefficients(x1, x2), s);
    const [left, right] = cutPiece({ time: [0, x1, x2, 1], value: span.y }, u);
    const spansOf = (piece: Piece, frames: number): Span[] => {
      const pieces = withHandlesInside(piece).map((part) => toSpan(part, span));
      // One piece has the length asked for to the last bit.
      return pieces.length === 1 ? [{ ...pieces[0]!, frames }] : pieces;
    };
    parts = [spansOf(left, at), spansOf(right, rest)];
  }
  if (span.locked) parts = parts.map((side) => side.map((part) => ({ ...part, locked: true }))) as [Span[], Span[]];
  if (span.jump !== undefined) parts[0][0] = { ...parts[0][0]!, jump: span.jump };
  const [before, after] = parts;
  const all = shareMemory(span, [...before, ...after]);
  return [all.slice(0, before.length), all.slice(before.length)];
}

/**
 * The map with a joint at output time `t`, every position as before.
 *
 * @param t output frames, 0…length; a joint that is already there (to 1e-9) is used
 * @returns the map and the index of the first span after the joint (`spans.length` at the end)
 */
export function splitAt(map: RetimeMap, t: number): { map: RetimeMap; index: number } {
  const ready = compile(map);
  if (!(t >= -TIME_EPSILON && t <= ready.length + TIME_EPSILON)) {
    throw new RangeError(`output time ${t} is outside 0…${ready.length}`);
  }
  const index = spanIndexAt(ready, t);
  if (t - ready.times[index]! < TIME_EPSILON) return { map, index };
  if (ready.times[index + 1]! - t < TIME_EPSILON) return { map, index: index + 1 };
  const [before, after] = splitSpan(map.spans[index]!, t - ready.times[index]!);
  return { map: { ...map, spans: map.spans.toSpliced(index, 1, ...before, ...after) }, index: index + before.length };
}
