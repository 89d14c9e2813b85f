import type { RetimeMap, Span } from '@hastig/contract';
import { isLinearTime, valueCoefficients } from '../bezier';
import { compile, positionAt, positionBefore, speedAt, speedBefore } from '../map';
import { constantSpan, isConstantSpeed, linearPositionSpan } from '../span';
import { shareMemory } from '../tracked';

/** A map in another description, and how far the source is from where it was, at most. */
interface Converted {
  map: RetimeMap;
  /** Greatest deviation in source frames; 0 where nothing is lost. */
  deviation: number;
}

/** Deviation below which a part is not cut any finer, in source frames. */
const FINE = 0.01;
/** A part becomes at most so many; beyond that the deviation is told and left to the user. */
const MOST_PIECES = 16;
const SAMPLES = 32;

/**
 * The map with every part described by its speed.
 *
 * A position that is at most cubic in time has a speed that is at most quadratic, and that is a speed span exactly.
 * Uneven time (handles off a third) has none, and is met piece by piece: the same positions and speeds at the ends of
 * each piece.
 */
export function toSpeeds(map: RetimeMap): Converted {
  return convert(map, 'speed');
}

/**
 * The map with every part described by its position. Speeds that are at most quadratic in time become positions exactly;
 * others piece by piece.
 */
export function toPositions(map: RetimeMap): Converted {
  return convert(map, 'position');
}

function convert(map: RetimeMap, of: Span['of']): Converted {
  const { times, ratio } = compile(map);
  let deviation = 0;
  const spans = map.spans.flatMap((span, index) => {
    if (span.of === of) return [span];
    const exact = of === 'speed' ? exactSpeed(span, ratio) : exactPosition(span, ratio);
    if (exact) return shareMemory(span, [carry(span, exact)]);
    const { pieces, off } = pieced(map, times[index]!, times[index + 1]!, of);
    deviation = Math.max(deviation, off);
    const carried = pieces.map((piece, i) =>
      i === 0 ? carry(span, piece) : { ...piece, ...(span.locked && { locked: true }) },
    );
    return shareMemory(span, carried);
  });
  return { map: { ...map, spans }, deviation };
}

function carry({ jump, locked }: Span, made: Span): Span {
  return { ...made, ...(jump === undefined ? {} : { jump }), ...(locked ? { locked } : {}) };
}

function exactSpeed(span: Span, ratio: number): Span | undefined {
  if (!isLinearTime(...span.x)) return undefined;
  const [y0, y1, y2, y3] = span.y;
  // The derivative's three values, raised by one degree.
  const scale = 3 / (ratio * span.frames);
  const [a, b, c] = [(y1 - y0) * scale, (y2 - y1) * scale, (y3 - y2) * scale];
  const even = Math.abs(a - b) < 1e-12 && Math.abs(b - c) < 1e-12;
  if (even) return constantSpan(y3 / (ratio * span.frames), span.frames);
  return { of: 'speed', frames: span.frames, x: span.x, y: [a, (a + 2 * b) / 3, (2 * b + c) / 3, c] };
}

function exactPosition(span: Span, ratio: number): Span | undefined {
  if (isConstantSpeed(span)) return linearPositionSpan(ratio * span.y[0] * span.frames, span.frames);
  if (!isLinearTime(...span.x)) return undefined;
  const [c0, c1, c2, c3] = valueCoefficients(span.y);
  if (Math.abs(c3) > 1e-12 * Math.max(...span.y.map(Math.abs))) return undefined;
  const scale = ratio * span.frames;
  const [p1, p2, p3] = [c0 * scale, (c1 * scale) / 2, (c2 * scale) / 3];
  const y: Span['y'] = [0, p1 / 3, (2 * p1 + p2) / 3, p1 + p2 + p3];
  return { of: 'position', frames: span.frames, x: [1 / 3, 2 / 3], y };
}

function pieced(map: RetimeMap, from: number, to: number, of: Span['of']): { pieces: Span[]; off: number } {
  for (let count = 1; ; count *= 2) {
    const stops = Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
    const pieces = stops.slice(1).map((stop, i) => hermite(map, stops[i]!, stop, of));
    const off = farthest(map, from, to, pieces);
    if (off < FINE || count >= MOST_PIECES) return { pieces, off };
  }
}

/** The piece with the same travel and the same speeds at both ends. */
function hermite(map: RetimeMap, from: number, to: number, of: Span['of']): Span {
  const { ratio } = compile(map);
  const frames = to - from;
  // An upright handle is infinitely fast; a piece is not.
  const finite = (speed: number): number => (Number.isFinite(speed) ? speed : 0);
  const [a, b] = [finite(speedAt(map, from)), finite(speedBefore(map, to))];
  const travel = positionBefore(map, to) - positionAt(map, from);
  if (of === 'speed') {
    const inner = ((4 * travel) / (ratio * frames) - a - b) / 2;
    return { of, frames, x: [1 / 3, 2 / 3], y: [a, inner, inner, b] };
  }
  const third = (ratio * frames) / 3;
  return { of, frames, x: [1 / 3, 2 / 3], y: [0, a * third, travel - b * third, travel] };
}

function farthest(map: RetimeMap, from: number, to: number, pieces: readonly Span[]): number {
  const start = positionAt(map, from);
  const made = compile({ ...map, start, spans: [...pieces] });
  const steps = SAMPLES * pieces.length;
  let most = 0;
  for (let i = 0; i < steps; i++) {
    const t = ((to - from) * (i + 0.5)) / steps;
    most = Math.max(most, Math.abs(positionAt(map, from + t) - positionAt(made, t)));
  }
  return most;
}
