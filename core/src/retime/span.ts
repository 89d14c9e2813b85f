import type { Span } from '@hastig/contract';
import { timeCoefficients } from './bezier';
import { eases, type Ease } from './ease';

/** A span's four values. */
export type Four = [number, number, number, number];

const LINEAR_X: [number, number] = [1 / 3, 2 / 3];

/** A span of one speed (1 is real time, 0 a freeze) over `frames` output frames. */
export function constantSpan(speed: number, frames: number): Span {
  return { of: 'speed', frames, x: [...LINEAR_X], y: [speed, speed, speed, speed] };
}

/**
 * A span whose speed goes from one value to another along an ease. The ease's handles, normalised by the
 * rise, become absolute values, so that the span stays what it is when its ends are equal.
 */
export function rampSpan(from: number, to: number, frames: number, ease: Ease = eases.linear): Span {
  const [x1, y1, x2, y2] = ease;
  const rise = to - from;
  return { of: 'speed', frames, x: [x1, x2], y: [from, from + y1 * rise, from + y2 * rise, to] };
}

/** A span whose source position runs evenly over `travel` source frames. */
export function linearPositionSpan(travel: number, frames: number): Span {
  return { of: 'position', frames, x: [...LINEAR_X], y: [0, travel / 3, (2 * travel) / 3, travel] };
}

/** Whether a span holds one speed throughout (a constant-speed part; a freeze is one at speed 0). */
export function isConstantSpeed(span: Span): boolean {
  const [y0, y1, y2, y3] = span.y;
  return span.of === 'speed' && y0 === y1 && y1 === y2 && y2 === y3;
}

/**
 * Area under a speed span's curve over normalised time: its mean speed. Closed form of ∫ Y X′ du for the
 * cubic Bézier in (time, value); linear in the speeds (see `docs/retime.md`).
 */
export function meanSpeed(span: Span): number {
  const [x1, x2] = span.x;
  const [y0, y1, y2, y3] = span.y;
  return (
    y0 * (0.3 * x1 + 0.15 * x2 + 0.05) +
    y1 * (0.15 * x2 + 0.15) +
    y2 * (0.3 - 0.15 * x1) +
    y3 * (0.5 - 0.15 * x1 - 0.3 * x2)
  );
}

/**
 * How much each of a speed span's four values counts in its travel up to `u`: `∫ B_i X′ du`, per output frame of the
 * span and source frame per output frame. At `u = 1` their sum with the speeds is `meanSpeed`.
 *
 * @param x the handles' times
 * @param u parameter, 0…1
 */
export function travelWeights(x: Span['x'], u: number): Four {
  const [a1, a2, a3] = timeCoefficients(x[0], x[1]);
  // ∫ uⁱ du up to u, for i = 0…5.
  const u2 = u * u;
  const u3 = u2 * u;
  const [p0, p1, p2, p3, p4, p5] = [u, u2 / 2, u3 / 3, (u2 * u2) / 4, (u3 * u2) / 5, (u3 * u3) / 6];
  // ∫ uⁱ X′ du, as X′ = a1 + 2·a2·u + 3·a3·u².
  const m0 = a1 * p0 + 2 * a2 * p1 + 3 * a3 * p2;
  const m1 = a1 * p1 + 2 * a2 * p2 + 3 * a3 * p3;
  const m2 = a1 * p2 + 2 * a2 * p3 + 3 * a3 * p4;
  const m3 = a1 * p3 + 2 * a2 * p4 + 3 * a3 * p5;
  // The cubic Bernstein polynomials by powers of u.
  return [m0 - 3 * m1 + 3 * m2 - m3, 3 * m1 - 6 * m2 + 3 * m3, 3 * m2 - 3 * m3, m3];
}

/** Source frames a span passes, without its jump. `ratio` is source rate / output rate. */
export function spanTravel(span: Span, ratio: number): number {
  return span.of === 'position' ? span.y[3] : ratio * span.frames * meanSpeed(span);
}

/** The span run backwards in time: last value first. A speed changes its sign, a position counts from its new start. */
export function mirrorSpan(span: Span): Span {
  const [x1, x2] = span.x;
  const [y0, y1, y2, y3] = span.y;
  const x: [number, number] = [1 - x2, 1 - x1];
  const y: Span['y'] = span.of === 'speed' ? [0 - y3, 0 - y2, 0 - y1, 0 - y0] : [0, y2 - y3, y1 - y3, y0 - y3];
  return { of: span.of, frames: span.frames, x, y };
}

/** The same content in `factor` times the length: a speed becomes `1 / factor` of what it was. */
export function scaleSpan(span: Span, factor: number): Span {
  const y = span.of === 'speed' ? (span.y.map((speed) => speed / factor) as Span['y']) : span.y;
  return { ...span, frames: span.frames * factor, y };
}

const EASE_EPSILON = 1e-12;

/** The normalised handles of a speed span, or undefined where it does not rise or fall (a bump or a constant-speed part). */
export function spanEase(span: Span): Ease | undefined {
  const rise = span.y[3] - span.y[0];
  if (span.of !== 'speed' || Math.abs(rise) < EASE_EPSILON) return undefined;
  return [span.x[0], (span.y[1] - span.y[0]) / rise, span.x[1], (span.y[2] - span.y[0]) / rise];
}

/** The same span with other end speeds, its handles following in proportion (a bump keeps its height above the line). */
export function withEndSpeeds(span: Span, from: number, to: number): Span {
  const ease = spanEase(span);
  if (ease) return { ...span, y: rampSpan(from, to, span.frames, ease).y };
  const [y0, y1, y2] = span.y;
  const rise = to - from;
  const [h1, h2] = isConstantSpeed(span) ? [from + rise / 3, from + (2 * rise) / 3] : [from + y1 - y0, to + y2 - y0];
  return { ...span, y: [from, h1, h2, to] };
}
