import type { RetimeMap, Span } from '@hastig/contract';
import { rateToNumber } from '../../time';
import { rootsInUnit, valueCoefficients } from '../bezier';
import { realFrameFloor } from '../floor';
import { compile, frameCount, sourceShortages } from '../map';
import { isConstantSpeed, meanSpeed } from '../span';
import { cadenceOf } from './cadence';

export type WarningKind = 'out-of-source' | 'backwards' | 'below-floor' | 'fast-forward' | 'short-ramp';

/** Something about a map that an editor would want to know, and where. */
export interface PaceWarning {
  kind: WarningKind;
  /** Output frames, `to` not included. */
  from: number;
  to: number;
  /** The span it is about; undefined where it is about several. */
  span?: number;
  /** The figure it turns on: frames missing, frames made up, seconds, or the ramp's frames. */
  amount: number;
  /** At which end the source runs out. */
  side?: 'before' | 'after';
}

/** Speed from which movement reads as fast-forward when it lasts, and for how many seconds it may. */
export const FAST_SPEED = 3;
const FAST_SECONDS = 1;
/** A ramp needs at least this many output frames to be seen as one. */
export const LEAST_RAMP = 2;

/**
 * Everything worth a warning in a map, in output order.
 *
 * Speeding up is shown in bursts, not in found (common practice). The threshold is ours: 300% or more, forwards or
 * backwards, for longer than one second.
 */
export function paceWarnings(map: RetimeMap): PaceWarning[] {
  const { times } = compile(map);
  const floor = realFrameFloor(map.sourceRate, map.outputRate);
  const total = frameCount(map);
  const warnings: PaceWarning[] = sourceShortages(map).map(({ from, frames, side }) => ({
    kind: 'out-of-source',
    from,
    to: from + frames,
    amount: frames,
    side,
  }));
  map.spans.forEach((span, index) => {
    const [from, to] = [times[index]!, times[index + 1]!];
    if (goesBackUnasked(span)) warnings.push({ kind: 'backwards', from, to, span: index, amount: 0 });
    const isRamp = span.of === 'speed' && !isConstantSpeed(span);
    if (isRamp && span.frames < LEAST_RAMP - 1e-9) {
      warnings.push({ kind: 'short-ramp', from, to, span: index, amount: span.frames });
    }
    // A freeze is asked for; it makes nothing up.
    if (isConstantSpeed(span) && Math.abs(span.y[0]) > 1e-9 && Math.abs(span.y[0]) < floor - 1e-9) {
      const { between } = cadenceOf(map, Math.ceil(from - 1e-6), Math.min(total, Math.ceil(to - 1e-6)));
      if (between > 0) warnings.push({ kind: 'below-floor', from, to, span: index, amount: between });
    }
  });
  return [...warnings, ...fastStretches(map)].sort((a, b) => a.from - b.from);
}

/** Whether a span dips below zero although both its ends run forwards (or its positions rise). */
function goesBackUnasked(span: Span): boolean {
  const [y0, , , y3] = span.y;
  if (isConstantSpeed(span)) return false;
  if (span.of === 'speed') {
    if (y0 < 0 || y3 < 0) return false;
    return lowest(valueCoefficients(span.y)) < -1e-9;
  }
  // The position's slope in u has the sign of the speed, for time always rises.
  const [, c1, c2, c3] = valueCoefficients(span.y);
  const travel = Math.abs(y3);
  return y3 >= 0 && lowest([c1, 2 * c2, 3 * c3, 0]) < -1e-9 * Math.max(1, travel);
}

function lowest(c: readonly [number, number, number, number]): number {
  const at = (u: number): number => ((c[3] * u + c[2]) * u + c[1]) * u + c[0];
  return Math.min(...[0, 1, ...rootsInUnit([c[1], 2 * c[2], 3 * c[3], 0])].map(at));
}

function fastStretches(map: RetimeMap): PaceWarning[] {
  const { times, ratio } = compile(map);
  const limit = FAST_SECONDS * rateToNumber(map.outputRate);
  const found: PaceWarning[] = [];
  let from: number | undefined;
  const end = (to: number): void => {
    if (from !== undefined && to - from > limit + 1e-6) {
      found.push({ kind: 'fast-forward', from, to, amount: (to - from) / rateToNumber(map.outputRate) });
    }
    from = undefined;
  };
  map.spans.forEach((span, index) => {
    const mean = span.of === 'speed' ? meanSpeed(span) : span.y[3] / (ratio * span.frames);
    if (Math.abs(mean) >= FAST_SPEED - 1e-9) from ??= times[index]!;
    else end(times[index]!);
  });
  end(times.at(-1)!);
  return found;
}
