/** Times the rate at which peaks between samples are looked for. */
const TIMES = 4;
/** Samples to either side that a value between two depends on. */
export const PEAK_REACH = 12;

// A windowed sinc a phase. The recommendation's own has 12 taps a phase; these are twice as long and so a little more exact.
const phases = Array.from({ length: TIMES - 1 }, (_, index) => {
  const phase = (index + 1) / TIMES;
  const taps = Float64Array.from({ length: 2 * PEAK_REACH }, (_, tap) => {
    const x = tap - PEAK_REACH + 1 - phase;
    const window = 0.5 + 0.5 * Math.cos((Math.PI * x) / PEAK_REACH);
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * window;
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
});

const { abs, max } = Math;

/**
 * The highest value that samples reach, between them too (true peak: Recommendation ITU-R BS.1770-5, annex 2, four times
 * oversampled).
 *
 * @param samples with `PEAK_REACH` more to either side of what is looked at
 * @returns a factor of full scale
 */
export function truePeak(samples: Float32Array, from = PEAK_REACH, to = samples.length - PEAK_REACH): number {
  const [early, middle, late] = phases as [Float64Array, Float64Array, Float64Array];
  const count = early.length;
  let most = 0;
  for (let n = from; n < to; n++) {
    const first = n - PEAK_REACH + 1;
    let [a, b, c] = [0, 0, 0];
    for (let tap = 0; tap < count; tap++) {
      const value = samples[first + tap]!;
      a += early[tap]! * value;
      b += middle[tap]! * value;
      c += late[tap]! * value;
    }
    most = max(most, abs(samples[n]!), abs(a), abs(b), abs(c));
  }
  return most;
}
