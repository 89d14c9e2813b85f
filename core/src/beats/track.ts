import { parabolicTop } from './onsets';
import type { TempoPoint } from './tempo';

// Looked up once: the loops below run for every value of an envelope.
const { log, max, min, round, sqrt } = Math;

/** How strictly beats keep to the tempo beside falling on onsets. */
const STRICT = 90;

/** The period at a moment of a tempo that changes. */
function periodAt(tempo: readonly TempoPoint[], time: number, hint: number): [period: number, index: number] {
  let index = hint;
  while (index + 1 < tempo.length && tempo[index + 1]!.time <= time) index++;
  return [tempo[index]!.period, index];
}

/**
 * Beats on onsets at the tempo, by dynamic programming: D. Ellis, “Beat tracking by dynamic programming” (Journal of New Music
 * Research, 2007), with a tempo that changes.
 *
 * @param envelope values of an onset envelope, `fullRate` of them a second, the first standing for `start` seconds
 * @returns seconds of each beat, in order
 */
export function trackBeats(
  envelope: Float32Array,
  fullRate: number,
  start: number,
  tempo: readonly TempoPoint[],
): number[] {
  // Followed at half the rate, which takes a quarter of the time; each beat is then put on the highest value near it.
  const values = halved(envelope);
  const rate = fullRate / 2;
  const count = values.length;
  const spread = deviation(values) || 1;
  const sum = new Float64Array(count);
  const before = new Int32Array(count).fill(-1);
  const slowest = tempo.reduce((most, { period }) => max(most, period), 0);
  const logs = Float64Array.from({ length: round(2 * slowest * rate) + 2 }, (_, frames) => log(frames));
  // What a lag costs beside the period that is expected; made anew when that changes.
  const costs = new Float64Array(logs.length);
  let costsOf = NaN;
  let hint = 0;
  for (let i = 0; i < count; i++) {
    const [period, index] = periodAt(tempo, start + i / rate, hint);
    hint = index;
    const frames = period * rate;
    const own = values[i]! / spread;
    if (frames !== costsOf) {
      costsOf = frames;
      const expected = log(frames);
      for (let lag = 1; lag < costs.length; lag++) costs[lag] = STRICT * (logs[lag]! - expected) ** 2;
    }
    let most = 0;
    let from = -1;
    const nearest = i - round(frames / 2);
    for (let j = max(0, i - round(2 * frames)); j <= nearest; j++) {
      const score = sum[j]! - costs[i - j]!;
      if (score > most) {
        most = score;
        from = j;
      }
    }
    sum[i] = own + most;
    before[i] = from;
  }
  return backFrom(sum, before, tempo, rate).map((i) => {
    let at = 2 * i;
    for (let near = max(0, 2 * i - 1); near <= min(envelope.length - 1, 2 * i + 2); near++) {
      if (envelope[near]! > envelope[at]!) at = near;
    }
    const top = parabolicTop(envelope[at - 1] ?? 0, envelope[at]!, envelope[at + 1] ?? 0);
    return max(0, start + (at + top) / fullRate);
  });
}

/** The greater of each two values. */
function halved(values: Float32Array): Float32Array {
  return Float32Array.from({ length: values.length >> 1 }, (_, i) => {
    const [a, b] = [values[2 * i]!, values[2 * i + 1]!];
    return a > b ? a : b;
  });
}

// From the best end within the last two beats.
function backFrom(sum: Float64Array, before: Int32Array, tempo: readonly TempoPoint[], rate: number): number[] {
  const last = max(0, sum.length - round(2 * (tempo.at(-1)?.period ?? 0.5) * rate));
  let at = last;
  for (let i = last; i < sum.length; i++) if (sum[i]! > sum[at]!) at = i;
  const beats: number[] = [];
  for (; at >= 0 && sum.length > 0; at = before[at]!) beats.push(at);
  return beats.reverse();
}

function deviation(values: Float32Array): number {
  const mean = values.reduce((total, value) => total + value, 0) / max(1, values.length);
  return sqrt(values.reduce((total, value) => total + (value - mean) ** 2, 0) / max(1, values.length));
}
