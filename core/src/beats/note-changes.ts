// Looked up once: the loops below run for every value of an envelope.
const { ceil, floor, max, sqrt } = Math;

/** Hertz between which notes and chords are heard: above the kick, below hats. */
const LOWEST = 120;
const HIGHEST = 2600;
/** Seconds before and after a moment that are compared. */
const REACH = 0.08;

/**
 * How much the notes that sound change, moment by moment: how unlike the spectrum is in the 80 ms after one to that in the 80 ms
 * before. A chord that changes is told so even where it sets in softly, and a drum that only gets louder is not. (The novelty of
 * J. Foote, “Automatic audio segmentation using a measure of audio novelty”, ICME 2000, with the smallest kernel there is.)
 */
export class NoteChanges {
  private readonly from: number;
  private readonly to: number;
  /** Windows on each side. */
  readonly reach: number;
  private readonly ring: Float32Array[];
  private readonly after: Float64Array;
  private readonly before: Float64Array;
  private windows = 0;

  /**
   * @param size samples of a window
   * @param rate samples a second
   * @param hop samples from one window to the next
   */
  constructor(size: number, rate: number, hop: number) {
    this.from = max(1, ceil((LOWEST * size) / rate));
    this.to = Math.min(size / 2, floor((HIGHEST * size) / rate) + 1);
    this.reach = windowsReached(rate, hop);
    const count = this.to - this.from;
    this.ring = Array.from({ length: 2 * this.reach }, () => new Float32Array(count));
    this.after = new Float64Array(count);
    this.before = new Float64Array(count);
  }

  /**
   * The next window.
   *
   * @param spectrum real and imaginary parts, bin by bin
   * @returns 0 to 1, how much changed `reach` windows ago
   */
  push(spectrum: readonly number[]): number {
    const { from, to, reach, ring, after, before } = this;
    // The row of the window that falls out is the one that comes in.
    const row = ring[this.windows % ring.length]!;
    const middle = ring[(this.windows + reach) % ring.length]!;
    this.windows++;
    let [ab, aa, bb] = [0, 0, 0];
    for (let bin = from, i = 0; bin < to; bin++, i++) {
      const re = spectrum[2 * bin]!;
      const im = spectrum[2 * bin + 1]!;
      // The fourth root of the power: loud partials do not hide soft ones.
      const value = sqrt(sqrt(re * re + im * im));
      const passing = middle[i]!;
      const b = (before[i]! += passing - row[i]!);
      const a = (after[i]! += value - passing);
      row[i] = value;
      ab += a * b;
      aa += a * a;
      bb += b * b;
    }
    return aa > 1e-9 && bb > 1e-9 ? max(0, 1 - ab / sqrt(aa * bb)) : 0;
  }
}

/** Windows that are compared on each side of a moment. */
export function windowsReached(rate: number, hop: number): number {
  return Math.round((REACH * rate) / hop);
}
