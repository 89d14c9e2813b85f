import { planarBytes, PlanarMean, type YuvSpace } from '@hastig/core';
import type { Graphics } from './graphics';
import { GraphicsSum } from './graphics-sum';

/** A small picture of an odd size, and how its values stand to colours. */
const SIZE = { width: 37, height: 21 };
const SPACE: YuvSpace = { matrix: 'bt709', fullRange: false };

/** Whether a graphics processor comes to the means that are reached without it, within one step of a value. */
export function addsRight(graphics: Graphics): boolean {
  const { width, height } = SIZE;
  const bytes = planarBytes(width, height);
  const [sum, twin] = [new GraphicsSum(graphics, width, height, SPACE), new PlanarMean(width, height, SPACE)];
  // All values, in another order in each picture; a row that stands still.
  for (const [picture, weight] of [0.25, 0.75].entries()) {
    const data = Uint8Array.from({ length: bytes }, (_, n) => (n < width ? n : (n * (picture ? 89 : 53)) & 255));
    sum.room().set(data);
    sum.add(weight);
    twin.add(data, weight);
  }
  const made = sum.mean()?.slice();
  sum.close();
  return made !== undefined && twin.picture().data.every((value, at) => Math.abs(value - made[at]!) <= 1);
}
