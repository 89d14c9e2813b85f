import { onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';

// Looked up once: the loops below run for every value of an envelope.
const { ceil, floor, log10, max, min } = Math;

/** Decibels below the loudest at which nothing is left. */
const RANGE = 30;
/** Values that are worked out together when one of them is asked for. */
const BLOCK = 4096;

const loudestOf = new WeakMap<OnsetEnvelope, Map<OnsetBand | 'all', number>>();

function powerAt({ levels }: OnsetEnvelope, used: readonly OnsetBand[], i: number): number {
  let power = 0;
  for (const band of used) power += levels[band][i]! ** 2;
  return power;
}

/** The greatest power of a band in all of an envelope; looked for once. */
function loudest(envelope: OnsetEnvelope, band: OnsetBand | 'all', used: readonly OnsetBand[]): number {
  const known = loudestOf.get(envelope) ?? new Map<OnsetBand | 'all', number>();
  loudestOf.set(envelope, known);
  let most = known.get(band);
  if (most === undefined) {
    most = 0;
    for (let i = 0; i < envelope.levels.low.length; i++) most = max(most, powerAt(envelope, used, i));
    known.set(band, most);
  }
  return most;
}

/**
 * How loud a band is over time as a share of its loudest, for what follows it: rises at once, falls within `fall` seconds. Only
 * what is asked for is worked out.
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
  const most = loudest(envelope, band, used);
  const drop = 1 / (max(1e-6, fall) * rate);
  const blocks = new Map<number, Float32Array>();
  const worked = (block: number): Float32Array => {
    const first = block * BLOCK;
    const shares = new Float32Array(min(BLOCK, count - first));
    let now = 0;
    // What was louder longer ago than it falls has fallen to nothing.
    for (let i = max(0, first - ceil(1 / drop)); i < first + shares.length; i++) {
      const power = powerAt(envelope, used, i);
      const decibels = power > 0 && most > 0 ? 10 * log10(power / most) : -RANGE;
      now = max(now - drop, max(0, 1 + decibels / RANGE));
      if (i >= first) shares[i - first] = now;
    }
    return shares;
  };
  const shareAt = (i: number): number => {
    const block = floor(i / BLOCK);
    let shares = blocks.get(block);
    if (!shares) blocks.set(block, (shares = worked(block)));
    return shares[i - block * BLOCK]!;
  };
  return (seconds) => {
    const at = (seconds - start - levelLag) * rate;
    const low = floor(at);
    if (low < 0 || low + 1 >= count) return 0;
    const before = shareAt(low);
    return before + (at - low) * (shareAt(low + 1) - before);
  };
}
