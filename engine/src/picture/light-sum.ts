import {
  bright,
  dark,
  fromPlanes,
  lightsOf,
  litValues,
  plainSum,
  planarBytes,
  PlanarMean,
  toPlanes,
  valueWeight,
  type Mixing,
  type PlanarPicture,
  type YuvSpace,
} from '@hastig/core';
import { graphicsAtHand } from './graphics/graphics';
import { addsRight } from './graphics/adds-right';
import { GraphicsSum } from './graphics/graphics-sum';
import { giveBack, kernelsAtHand, type Kernels } from './kernels';

/** Adds pictures in planes up in linear light. */
export interface LightSum {
  /** Where the planes of the next picture are written; asked for anew for each. */
  room(): Uint8Array;
  /**
   * Adds what was written there.
   *
   * @param weight of all together 1, unless `sumAll` is called
   * @param gain by which its light is more than it was
   */
  add(weight: number, gain?: number): void;
  /** Has all be made of what was added, also what stands still: weights are not 1 all together. */
  sumAll(): void;
  /**
   * The mean, to be copied before anything else is done; nothing is added after. Undefined where the device let go of it: once
   * more, it is made another way.
   */
  mean(): Uint8Array | undefined;
  close(): void;
}

/** Six numbers from planes and eleven to planes, in the order in which `kernels/assembly/light.ts` takes them. */
function numbersOf(space: YuvSpace): Int32Array {
  const { black, luma, redCr, greenCr, greenCb, blueCb } = fromPlanes(space);
  return Int32Array.from([black, luma, redCr, greenCr, greenCb, blueCb, ...sharesOf(space)]);
}

/** Eleven numbers to planes, in the order in which the kernels take them. */
export function sharesOf(space: YuvSpace): number[] {
  const { yr, yg, yb, ur, ug, ub, vr, vg, vb, yBase, cBase } = toPlanes(space);
  return [yr, yg, yb, ur, ug, ub, vr, vg, vb, yBase, cBase];
}

class KernelSum implements LightSum {
  private readonly bytes: number;
  private readonly lightest: boolean;

  constructor(
    private readonly kernels: Kernels,
    width: number,
    height: number,
    space: YuvSpace,
    { combine, lit }: Mixing,
  ) {
    this.bytes = planarBytes(width, height);
    kernels.openMean(width, height);
    this.lightest = combine === 'lightest';
    if (this.lightest) kernels.takeLightest();
    if (this.lightest && lit) {
      const tables = litValues(lit);
      this.at(kernels.litValuesAt(), tables.length).set(tables);
    }
    if (lit) {
      kernels.changeLight(...lit.times, ...lit.plus);
      kernels.sumAll();
    }
    this.at(kernels.brightAt(), bright.length).set(bright);
    this.at(kernels.darkAt(), dark.length).set(dark);
    new Float32Array(kernels.memory.buffer, kernels.lightsAt(), lightsOf.length).set(lightsOf);
    const numbers = numbersOf(space);
    new Int32Array(kernels.memory.buffer, kernels.numbersAt(), numbers.length).set(numbers);
  }

  private at(from: number, bytes: number): Uint8Array {
    return new Uint8Array(this.kernels.memory.buffer, from, bytes);
  }

  room(): Uint8Array {
    return this.at(this.kernels.meanAt(), this.bytes);
  }

  add(weight: number, gain = 1): void {
    if (this.lightest) return this.kernels.addToLightest(valueWeight(weight));
    if (gain !== 1) this.sumAll();
    this.kernels.addToMean(weight * gain);
  }

  sumAll(): void {
    this.kernels.sumAll();
  }

  mean(): Uint8Array {
    this.kernels.makeMean();
    return this.room();
  }

  close(): void {
    giveBack(this.kernels);
  }
}

class PlainSum implements LightSum {
  private readonly next: Uint8Array;
  private readonly sum: PlanarMean;

  constructor({ width, height }: Pick<PlanarPicture, 'width' | 'height'>, space: YuvSpace, mixing: Mixing) {
    this.next = new Uint8Array(planarBytes(width, height));
    this.sum = new PlanarMean(width, height, space, mixing);
  }

  room = (): Uint8Array => this.next;
  add = (weight: number, gain?: number): void => this.sum.add(this.next, weight, gain);
  sumAll = (): void => this.sum.sumAll();
  mean = (): Uint8Array => this.sum.picture().data;
  close = (): void => undefined;
}

/**
 * Begins a sum of pictures of a size: on the graphics processor where the device has one and nothing but a mean is asked for, by the
 * kernels where the browser takes them, without them otherwise.
 */
export async function lightSum(
  width: number,
  height: number,
  space: YuvSpace,
  mixing: Mixing = plainSum,
): Promise<LightSum> {
  const isMean = mixing.combine === 'sum' && !mixing.lit;
  const graphics = isMean ? graphicsAtHand(addsRight) : undefined;
  if (graphics && Math.max(width, height) <= graphics.most) return new GraphicsSum(graphics, width, height, space);
  const kernels = await kernelsAtHand();
  return kernels
    ? new KernelSum(kernels, width, height, space, mixing)
    : new PlainSum({ width, height }, space, mixing);
}
