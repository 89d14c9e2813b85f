const { cos, floor, min, PI } = Math;

/**
 * How sound would go on after some samples, had nothing happened: it is predicted from what it was.
 *
 * The prediction is Burg's (J. P. Burg, "Maximum Entropy Spectral Analysis", 1975), tapered so that tones are met better (D. N. Swingler,
 * "A comparison between Burg's maximum entropy method and a nonrecursive technique", 1979); it never grows without end. That sound
 * can be gone on with so: I. Kauppinen and K. Roth, "Audio signal extrapolation", DAFx 2002.
 *
 * @param known what was heard, in order
 * @param count samples that are to follow
 * @param order samples from which each next one is predicted, less than half of what is known
 */
export function extrapolate(known: ArrayLike<number>, count: number, order: number): Float64Array {
  const weights = burg(known, min(order, floor(known.length / 2)));
  const depth = weights.length;
  const all = new Float64Array(depth + count);
  for (let n = 0; n < depth; n++) all[n] = known[known.length - depth + n]!;
  for (let n = depth; n < all.length; n++) {
    let next = 0;
    for (let k = 0; k < depth; k++) next += weights[k]! * all[n - 1 - k]!;
    all[n] = next;
  }
  return all.subarray(depth);
}

/** The share of the energy below which all is rounding. */
const ROUNDED = 1e-12;

/** How much each of the samples before counts for the next, nearest first; all 0 for silence. */
function burg(samples: ArrayLike<number>, order: number): Float64Array {
  const count = samples.length;
  const forward = Float64Array.from(samples);
  const backward = Float64Array.from(samples);
  const taper = Float64Array.from({ length: count }, (_, n) => 0.54 - 0.46 * cos((2 * PI * (n + 0.5)) / count));
  const weights = new Float64Array(order);
  const before = new Float64Array(order);
  let total = 0;
  for (let m = 0; m < order; m++) {
    let [both, each] = [0, 0];
    for (let n = m + 1; n < count; n++) {
      const [f, b] = [forward[n]!, backward[n - 1]!];
      both += taper[n]! * f * b;
      each += taper[n]! * (f * f + b * b);
    }
    // Nothing is left that could be predicted but what was rounded.
    if (m === 0) total = each;
    if (each <= ROUNDED * total) break;
    const reflection = (2 * both) / each;
    before.set(weights);
    weights[m] = reflection;
    for (let k = 0; k < m; k++) weights[k] = before[k]! - reflection * before[m - 1 - k]!;
    for (let n = count - 1; n > m; n--) {
      const [f, b] = [forward[n]!, backward[n - 1]!];
      forward[n] = f - reflection * b;
      backward[n] = b - reflection * f;
    }
  }
  return weights;
}
