import { onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';

/** Decibels below the loudest at which nothing is left. */
const RANGE = 30;

/**
 * How loud a band is over time as a share of its loudest, for what follows it: rises at once, falls within `fall` seconds.
 *
 * @param band one, or all together
 * @param fall seconds in which it falls from the loudest to nothing, more than 0
 * @returns the share at so many seconds, 0 to 1 (30 dB below the loudest is 0)
 */
export function loudnessOf(
  envelope: OnsetEnvelope,
  band: OnsetBand | 'all',
  fall: number,
): (seconds: number) => number {
  const { levels, rate, start, levelLag } = envelope;
  const used = band === 'all' ? onsetBands : [band];
  const count = levels.low.length;
  const power = new Float64Array(count);
  for (const one of used) levels[one].forEach((level, i) => (power[i]! += level * level));
  const loudest = power.reduce((most, value) => Math.max(most, value), 0);
  const shares = new Float32Array(count);
  const drop = 1 / (Math.max(1e-6, fall) * rate);
  let now = 0;
  for (let i = 0; i < count; i++) {
    const decibels = power[i]! > 0 && loudest > 0 ? 10 * Math.log10(power[i]! / loudest) : -RANGE;
    now = Math.max(now - drop, Math.max(0, 1 + decibels / RANGE));
    shares[i] = now;
  }
  return (seconds) => {
    const at = (seconds - start - levelLag) * rate;
    const low = Math.floor(at);
    if (low < 0 || low + 1 >= count) return 0;
    return shares[low]! + (at - low) * (shares[low + 1]! - shares[low]!);
  };
}
