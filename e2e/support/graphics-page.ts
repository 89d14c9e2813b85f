import { planarBytes, PlanarMean, type YuvSpace } from '@hastig/core';
import { addsRight, GraphicsSum, openGraphics } from '@hastig/engine/graphics';

/** How far means by the graphics processor are from those without. */
interface GraphicsOff {
  /** Largest difference of a value, of 255, and the share of values that differ at all. */
  most: number;
  share: number;
}

declare global {
  interface Window {
    /** Compares means of random planes of a size, some of which stand still; null where nothing draws here. */
    compareGraphics(width: number, height: number, space: YuvSpace, gain?: number): GraphicsOff | null;
    /** Whether it is found to add up right, as it is on a device before it is used. */
    graphicsAddRight(): boolean | null;
    /** What is made where the device takes the graphics processor away in the middle. */
    loseGraphics(): boolean | null;
  }
}

function random(length: number, seed: number): Uint8Array {
  let state = seed;
  return Uint8Array.from({ length }, () => (state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff) >>> 23);
}

const graphics = openGraphics(true) ?? null;

window.compareGraphics = (width, height, space, gain) => {
  if (!graphics) return null;
  const [sum, twin] = [new GraphicsSum(graphics, width, height, space), new PlanarMean(width, height, space)];
  const bytes = planarBytes(width, height);
  const still = random(bytes, 3);
  for (const [n, weight] of [0.1, 0.2, 0.3, 0.4].entries()) {
    const data = random(bytes, n + 7);
    // The upper half stands still.
    data.set(still.subarray(0, (width * height) >> 1));
    data.set(still.subarray(width * height), width * height);
    sum.room().set(data);
    sum.add(weight, gain);
    twin.add(data, weight, gain);
  }
  const [made, wanted] = [sum.mean()!.slice(), twin.picture().data];
  sum.close();
  let [most, off] = [0, 0];
  wanted.forEach((value, at) => {
    const by = Math.abs(value - made[at]!);
    most = Math.max(most, by);
    if (by > 0) off++;
  });
  return { most, share: off / bytes };
};

window.graphicsAddRight = () => graphics && addsRight(graphics);

window.loseGraphics = () => {
  const own = openGraphics(true);
  if (!own) return null;
  const sum = new GraphicsSum(own, 32, 16, { matrix: 'bt709', fullRange: false });
  sum.add(0.5);
  own.gl.getExtension('WEBGL_lose_context')!.loseContext();
  sum.add(0.5);
  return sum.mean() === undefined;
};
