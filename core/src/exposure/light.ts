/**
 * The exponent from a picture's values to light, as a display for graded video shows them: ITU-R BT.1886, annex 1, with black at
 * no light.
 */
export const DISPLAY_GAMMA = 2.4;

/** Steps in which light is looked up on its way back, by its square root, so that dark values are told apart too. */
const STEPS = 65_535;

const light = Float32Array.from({ length: 256 }, (_, value) => (value / 255) ** DISPLAY_GAMMA);
const values = Uint8Array.from({ length: STEPS + 1 }, (_, step) =>
  Math.round(255 * (step / STEPS) ** (2 / DISPLAY_GAMMA)),
);

/** Light of a value of 0 to 255, from 0 to 1. */
export const lightOf = (value: number): number => light[value]!;

/** The value of 0 to 255 that stands for light of 0 to 1. */
export const valueOf = (amount: number): number => values[Math.round(Math.sqrt(Math.min(1, amount)) * STEPS)]!;

/**
 * Adds pictures up in linear light, as a shutter that stays open does. What is seen through counts by how much of it is there.
 */
export class LightMean {
  private readonly sums: Float32Array;

  /** @param pixels of each picture */
  constructor(pixels: number) {
    this.sums = new Float32Array(4 * pixels);
  }

  /**
   * @param rgba four values a pixel, 0 to 255, colour not multiplied by opacity
   * @param weight of all pictures together 1
   */
  add(rgba: Uint8ClampedArray, weight: number): void {
    const { sums } = this;
    for (let n = 0; n < sums.length; n += 4) {
      const covers = (weight * rgba[n + 3]!) / 255;
      sums[n]! += covers * light[rgba[n]!]!;
      sums[n + 1]! += covers * light[rgba[n + 1]!]!;
      sums[n + 2]! += covers * light[rgba[n + 2]!]!;
      sums[n + 3]! += covers;
    }
  }

  /** Writes the mean, in the same form as what was added. */
  write(rgba: Uint8ClampedArray): void {
    const { sums } = this;
    for (let n = 0; n < sums.length; n += 4) {
      const covers = sums[n + 3]!;
      const each = covers > 0 ? 1 / covers : 0;
      for (let channel = n; channel < n + 3; channel++)
        rgba[channel] = values[Math.round(Math.sqrt(Math.min(1, sums[channel]! * each)) * STEPS)]!;
      rgba[n + 3] = Math.round(255 * covers);
    }
  }
}
