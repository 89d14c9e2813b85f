// Looked up once: the loops below run for every sample.
const { max, min, PI, tan } = Math;

/** Noise, −1 to 1, the same for the same seed on every machine (mulberry32, public domain). */
export function noiseOf(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2147483648 - 1;
  };
}

/**
 * A filter whose frequency may change with every sample without a click: the state-variable filter after V. Zavalishin,
 * “The Art of VA Filter Design” (2012), chapter 4.
 */
export class SweptFilter {
  private a = 0;
  private b = 0;

  /** @param damping 2 is none of its own ring, towards 0 it rings longer */
  constructor(
    private readonly rate: number,
    private readonly damping: number,
  ) {}

  /** The next sample. @param hertz the frequency that passes, or up to which sound passes */
  next(input: number, hertz: number): { low: number; band: number } {
    const g = tan((PI * min(max(hertz, 5), 0.45 * this.rate)) / this.rate);
    const { damping, a, b } = this;
    const high = (input - (damping + g) * a - b) / (1 + g * (damping + g));
    const band = g * high + a;
    const low = g * band + b;
    this.a = g * high + band;
    this.b = g * band + low;
    return { low, band: damping * band };
  }
}
