/**
 * The rising row that is nearest to a row of numbers, by least squares: isotonic regression by pooling adjacent violators
 * (M. Ayer et al., An Empirical Distribution Function for Sampling with Incomplete Information, Annals of Mathematical Statistics 26,
 * 1955). Time and memory grow with its length.
 *
 * @returns as many numbers, none smaller than the one before it
 */
export function isotonic(values: Float64Array): Float64Array {
  const means = new Float64Array(values.length);
  const sizes = new Uint32Array(values.length);
  let blocks = 0;
  for (let at = 0; at < values.length; at++) {
    let mean = values[at]!;
    let size = 1;
    while (blocks > 0 && means[blocks - 1]! > mean) {
      blocks--;
      mean = (mean * size + means[blocks]! * sizes[blocks]!) / (size + sizes[blocks]!);
      size += sizes[blocks]!;
    }
    means[blocks] = mean;
    sizes[blocks] = size;
    blocks++;
  }
  const row = new Float64Array(values.length);
  for (let block = 0, at = 0; block < blocks; at += sizes[block++]!) row.fill(means[block]!, at, at + sizes[block]!);
  return row;
}
