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
export interface CurveView {
  /** Output frames at the left and right edge (real). */
  from: number;
  to: number;
  /** Speeds at the lower and upper edge. */
  low: number;
  high: number;
  width: number;
  height: number;
}

/** Pixels left free above and beneath the curve. */
export const CURVE_PADDING = { top: 14, bottom: 26 };

export function frameToX(view: CurveView, frame: number): number {
  return ((frame - view.from) / (view.to - view.from)) * view.width;
}

export function xToFrame(view: CurveView, x: number): number {
  return view.from + (x / view.width) * (view.to - view.from);
}

function axisSpan(view: CurveView): { low: number; high: number; pixels: number } {
  const pixels = Math.max(1, view.height - CURVE_PADDING.top - CURVE_PADDING.bottom);
  return { low: speedToAxis(view.low), high: speedToAxis(view.high), pixels };
}

export function speedToY(view: CurveView, speed: number): number {
  const { low, high, pixels } = axisSpan(view);
  return CURVE_PADDING.top + ((high - speedToAxis(speed)) / (high - low)) * pixels;
}

export function yToSpeed(view: CurveView, y: number): number {
  const { low, high, pixels } = axisSpan(view);
  return axisToSpeed(high - ((y - CURVE_PADDING.top) / pixels) * (high - low));
}
