/** Speeds of playing, slowest first; backwards the same. */
const steps = [0.5, 1, 2, 4, 8];

/**
 * The speed of playing after one more press of a shuttle key: from rest real time, then a step faster; the other way a
 * step slower, down to half, and then real time the other way.
 *
 * @param now speed of playing, 0 at rest
 * @param way of the key; 0 stops
 */
export function shuttleSpeed(now: number, way: 1 | -1 | 0): number {
  if (way === 0) return 0;
  if (now === 0) return way;
  const step = steps.indexOf(Math.abs(now));
  if (Math.sign(now) === way) return way * (steps[Math.min(step + 1, steps.length - 1)] ?? 1);
  return step > 0 ? Math.sign(now) * steps[step - 1]! : way;
}
