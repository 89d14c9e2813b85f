/** Seconds within which a tap is drawn to a hit. */
const REACH = 0.08;

/** The nearest of some moments to a tap, within reach; the tap itself where there is none. */
export function snappedTap(seconds: number, hits: readonly { time: number }[]): number {
  let best = seconds;
  let far = REACH;
  for (const { time } of hits) {
    const off = Math.abs(time - seconds);
    if (off < far) [best, far] = [time, off];
  }
  return best;
}
