import { FULL, LightMean, lightsOf, valueOfSum } from './light';
import type { Mixing } from './lit';

/** Where pictures are put together in linear light. Each has four values a pixel, 0 to 255, colour not multiplied by opacity. */
export interface LightSheet {
  /**
   * @param rgba beginning at a whole word
   * @param weight how much it counts
   * @param opaque nothing of it is seen through
   * @param gain by which its light is more than it was, less than 2
   */
  add(rgba: Uint8ClampedArray, weight: number, opaque?: boolean, gain?: number): void;
  /** Writes what came of it, in the same form. */
  write(rgba: Uint8ClampedArray): void;
}

/** Less than any weight that counts. */
const LITTLE = 1e-6;

/**
 * A sheet for one way of putting pictures together.
 *
 * @param weights of all that will be added
 */
export function lightSheet(pixels: number, mixing: Mixing, weights: readonly number[]): LightSheet {
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const isMean = mixing.combine === 'sum' && !mixing.lit && Math.abs(all - 1) < LITTLE;
  return isMean ? new LightMean(pixels) : new LightMix(pixels, mixing);
}

/** Sums of any weights, the lightest, or one over the other; and what becomes of their light then. */
class LightMix implements LightSheet {
  /** Red, green, blue, each multiplied by how much of it is there, and that. */
  private readonly sums: Float32Array;

  constructor(
    private readonly pixels: number,
    private readonly mixing: Mixing,
  ) {
    this.sums = new Float32Array(4 * pixels);
  }

  add(rgba: Uint8ClampedArray, weight: number, opaque = false, gain = 1): void {
    const { sums, pixels } = this;
    const { combine } = this.mixing;
    for (let n = 0; n < 4 * pixels; n += 4) {
      const share = opaque ? 1 : rgba[n + 3]! / 255;
      // What lies over something leaves so much of it to be seen.
      const left = combine === 'over' ? 1 - share * weight : 1;
      for (let colour = 0; colour < 4; colour++) {
        const light = share * weight * (colour < 3 ? lightsOf[rgba[n + colour]!]! * gain : 1);
        const before = sums[n + colour]!;
        sums[n + colour] = combine === 'lightest' ? Math.max(before, light) : before * left + light;
      }
    }
  }

  write(rgba: Uint8ClampedArray): void {
    const { sums, pixels } = this;
    const { lit } = this.mixing;
    for (let n = 0; n < 4 * pixels; n += 4) {
      const covers = Math.min(1, sums[n + 3]!);
      for (let colour = 0; colour < 3; colour++) {
        const light = sums[n + colour]! * (lit?.times[colour] ?? 1) + (lit?.plus[colour] ?? 0) * covers;
        rgba[n + colour] = covers > 0 ? valueOfSum(Math.min(FULL, Math.round((light / covers) * FULL))) : 0;
      }
      rgba[n + 3] = Math.round(255 * covers);
    }
  }
}
