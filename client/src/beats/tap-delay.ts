/** Where this device's delay is kept: it belongs to its screen and its loudspeaker, not to a project. */
const KEY = 'hastig:tap-delay';

/** Milliseconds by which taps arrive later than what they were meant for; 0 unless measured. */
export function tapDelay(): number {
  const kept = Number(localStorage.getItem(KEY));
  return Number.isFinite(kept) ? kept : 0;
}

export function keepTapDelay(milliseconds: number): void {
  localStorage.setItem(KEY, String(milliseconds));
}

/** Taps further than this from a click, in ms, were not meant for it. */
const FAR = 300;

/**
 * The delay of taps behind clicks: the middle one of all that were meant for a click.
 *
 * @param taps and `clicks` wall times (ms)
 * @returns ms; undefined of fewer than four
 */
export function measuredDelay(taps: readonly number[], clicks: readonly number[]): number | undefined {
  const delays = taps
    .map((tap) => clicks.map((click) => tap - click).sort((a, b) => Math.abs(a) - Math.abs(b))[0] ?? Infinity)
    .filter((delay) => Math.abs(delay) < FAR)
    .sort((a, b) => a - b);
  return delays.length < 4 ? undefined : Math.round(delays[delays.length >> 1]!);
}
