import type { RetimeMap } from '@hastig/contract';
import type { TimeView } from '../../../time-view/use-time-view';

export { frameToX, xToFrame } from '../../../time-view/use-time-view';

/**
 * The speed axis: logarithmic on both sides of zero and straight through it, so that ×0.1 and ×10 lie equally far from
 * ×1, backwards mirrors forwards, and a freeze has a place.
 *
 * Below `LINEAR` the axis is linear; both parts meet with the same slope.
 */
const LINEAR = 0.1;
const LINEAR_SHARE = 1 / Math.LN10;

/** Place of a speed on the axis; 0 for a freeze. One decade of speed is 1. */
export function speedToAxis(speed: number): number {
  const size = Math.abs(speed);
  const place = size <= LINEAR ? (size / LINEAR) * LINEAR_SHARE : LINEAR_SHARE + Math.log10(size / LINEAR);
  return speed < 0 ? -place : place;
}

/** The speed at a place on the axis: the inverse of `speedToAxis`. */
export function axisToSpeed(place: number): number {
  const size = Math.abs(place);
  const speed = size <= LINEAR_SHARE ? (size / LINEAR_SHARE) * LINEAR : LINEAR * 10 ** (size - LINEAR_SHARE);
  return place < 0 ? -speed : speed;
}

/** A part of the curve on the screen: which output frames and speeds, and how many pixels. */
export interface CurveView extends TimeView {
  /** Speeds at the lower and upper edge. */
  low: number;
  high: number;
  height: number;
}

/** Highest speed always in sight, so that there is room to drag to. */
const ROOM_ABOVE = 3;

/** The speeds a curve of this map shows, lowest and highest. */
export function speedsInSight(map: RetimeMap): { low: number; high: number } {
  let [low, high] = [0, ROOM_ABOVE];
  for (const span of map.spans) {
    if (span.of !== 'speed') continue;
    for (const speed of span.y) {
      if (speed < low) low = speed;
      if (speed > high) high = speed;
    }
  }
  return { low: low < 0 ? low * 1.4 : 0, high: high * 1.25 };
}

/** Pixels left free above and beneath the curve. */
const CURVE_PADDING = { top: 14, bottom: 26 };

function axisSpan(view: CurveView): { low: number; high: number; pixels: number } {
  const pixels = Math.max(1, view.height - CURVE_PADDING.top - CURVE_PADDING.bottom);
  return { low: speedToAxis(view.low), high: speedToAxis(view.high), pixels };
}

/** Where speeds lie in a view, worked out once for many of them. */
export function speedScale(view: CurveView): (speed: number) => number {
  const { low, high, pixels } = axisSpan(view);
  const perDecade = pixels / (high - low);
  return (speed) => CURVE_PADDING.top + (high - speedToAxis(speed)) * perDecade;
}

export function speedToY(view: CurveView, speed: number): number {
  return speedScale(view)(speed);
}

export function yToSpeed(view: CurveView, y: number): number {
  const { low, high, pixels } = axisSpan(view);
  return axisToSpeed(high - ((y - CURVE_PADDING.top) / pixels) * (high - low));
}
