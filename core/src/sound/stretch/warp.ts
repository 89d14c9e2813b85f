const { ceil, floor, max, min } = Math;

/**
 * The time in which a stretched sound is made before its pitch is shifted: its rate at a moment is the pitch there. Read back at
 * that rate, it has the pitch, and lasts as long as it should.
 *
 * Between knots a cubic (Hermite) through the sums and the rates.
 */
export class Warp {
  private readonly sums: Float64Array;
  private readonly rates: Float64Array;
  private readonly step: number;

  /**
   * @param pitch at a moment in seconds; more than 0
   * @param from seconds of the first knot, where the warped time is 0
   * @param to seconds of the last
   */
  constructor(
    pitch: (seconds: number) => number,
    private readonly from: number,
    to: number,
  ) {
    const knots = max(2, ceil((to - from) / KNOTS) + 1);
    this.step = (to - from) / (knots - 1);
    this.sums = new Float64Array(knots);
    this.rates = Float64Array.from({ length: knots }, (_, i) => pitch(from + i * this.step));
    for (let i = 1; i < knots; i++) {
      const middle = pitch(from + (i - 0.5) * this.step);
      this.sums[i] = this.sums[i - 1]! + (this.step / 6) * (this.rates[i - 1]! + 4 * middle + this.rates[i]!);
    }
  }

  /** Warped seconds at a moment; straight on beyond both ends. */
  at(seconds: number): number {
    const { sums, rates, step } = this;
    const last = sums.length - 1;
    const place = (seconds - this.from) / step;
    if (place <= 0) return place * step * rates[0]!;
    if (place >= last) return sums[last]! + (place - last) * step * rates[last]!;
    const i = floor(place);
    const x = place - i;
    const [a, b] = [sums[i]!, sums[i + 1]!];
    const [da, db] = [rates[i]! * step, rates[i + 1]! * step];
    return a + x * (da + x * (3 * (b - a) - 2 * da - db + x * (da + db - 2 * (b - a))));
  }

  /** Warped seconds that pass with each second at a moment. */
  rateAt(seconds: number): number {
    const { rates, step } = this;
    const place = min(rates.length - 1, max(0, (seconds - this.from) / step));
    const i = min(rates.length - 2, floor(place));
    return rates[i]! + (place - i) * (rates[i + 1]! - rates[i]!);
  }

  /** The moment at which so many warped seconds have passed. */
  inverse(warped: number): number {
    const { sums, rates, step, from } = this;
    const last = sums.length - 1;
    if (warped <= 0) return from + warped / rates[0]!;
    if (warped >= sums[last]!) return from + last * step + (warped - sums[last]!) / rates[last]!;
    let [low, high] = [0, last];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (sums[middle]! <= warped) low = middle;
      else high = middle;
    }
    let [a, b] = [from + low * step, from + high * step];
    let guess = a + ((warped - sums[low]!) / (sums[high]! - sums[low]!)) * (b - a);
    for (let i = 0; i < 6; i++) {
      const miss = this.at(guess) - warped;
      if (miss > 0) b = guess;
      else a = guess;
      const next = guess - miss / this.rateAt(guess);
      guess = next > a && next < b ? next : (a + b) / 2;
    }
    return guess;
  }
}

/** Seconds between two knots. */
const KNOTS = 1 / 250;
