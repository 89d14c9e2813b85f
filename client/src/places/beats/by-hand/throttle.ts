/** The greatest speed of the throttle. */
const MOST = 4;

/** The speed at a share of the throttle's way: evenly from a standstill to real time in its middle, then by octaves to the end. */
export function speedOfShare(share: number): number {
  const inside = Math.min(1, Math.max(0, share));
  return inside <= 0.5 ? 2 * inside : MOST ** (2 * inside - 1);
}

/** The share of the throttle's way at which a speed is, 0 to 1. */
export function shareOfSpeed(speed: number): number {
  const size = Math.abs(speed);
  return size <= 1 ? size / 2 : Math.min(1, 0.5 + Math.log(size) / Math.log(MOST) / 2);
}

/** The speed a step of a key or of the wheel further, its direction staying. */
export function steppedSpeed(speed: number, steps: number): number {
  const next = speedOfShare(shareOfSpeed(speed) + steps / 20);
  return Math.round(next * 100) / 100;
}
