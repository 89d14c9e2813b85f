import { PEAK_REACH, truePeak } from '../loudness/true-peak';
import { easedPeak } from './eased-peaks';

/** Seconds of a block whose peak is looked at as one; in which the limiter closes before a peak; and in which it opens again. */
const BLOCK = 0.001;
const ATTACK = 5;
const RELEASE = 120;

/** Samples of a block, and how many lie before and after a stretch that its limiting depends on. */
export function limitReach(rate: number): { block: number; before: number; after: number } {
  const block = Math.round(BLOCK * rate);
  return { block, before: (RELEASE + 4) * block + PEAK_REACH, after: (ATTACK + 4) * block + PEAK_REACH };
}

/**
 * Keeps peaks under a limit: closes before each, as far as that needs and no further, and opens again slowly.
 *
 * @param samples one array a channel, with as many before and after the stretch as `limitReach` says
 * @param first output sample of the first of them: blocks are counted from the output's beginning
 * @param count of the stretch
 * @param limit in decibels below full scale, 0 or less
 * @returns the stretch
 */
export function limited(
  samples: readonly Float32Array[],
  first: number,
  count: number,
  limit: number,
  rate: number,
): Float32Array<ArrayBuffer>[] {
  const { block, before } = limitReach(rate);
  const ceiling = 10 ** (limit / 20);
  const known = new Map<number, number>();
  const overBy = (index: number): number => {
    let over = known.get(index);
    if (over === undefined) {
      const from = Math.max(PEAK_REACH, index * block - first);
      const to = Math.min(samples[0]!.length - PEAK_REACH, (index + 1) * block - first);
      const peak = Math.max(...samples.map((channel) => truePeak(channel, from, to)));
      over = peak > ceiling ? 20 * Math.log10(peak / ceiling) : 0;
      known.set(index, over);
    }
    return over;
  };
  // A block's neighbours are held as low as it, so that what lies between two blocks is no higher than either allows.
  const held = (index: number): number => Math.max(overBy(index - 1), overBy(index), overBy(index + 1));
  const begin = first + before;
  const decibels = new Map<number, number>();
  const gainAt = (index: number): number => {
    let by = decibels.get(index);
    if (by === undefined) decibels.set(index, (by = easedPeak(held, index, ATTACK, RELEASE)));
    return by;
  };
  const out = samples.map(() => new Float32Array(count));
  for (let n = 0; n < count; n++) {
    const place = (begin + n) / block - 0.5;
    const index = Math.floor(place);
    const [a, b] = [gainAt(index), gainAt(index + 1)];
    const by = a + (place - index) * (b - a);
    const gain = by === 0 ? 1 : 10 ** (-by / 20);
    out.forEach((channel, side) => (channel[n] = samples[side]![before + n]! * gain));
  }
  return out;
}
