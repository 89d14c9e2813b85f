import { join } from 'node:path';
import { i420Bytes, planarBytes, PlanarMean, rgbaToI420, type Mixing, type YuvSpace } from '@hastig/core';
import { compileKernels } from '@hastig/kernels/compile';
import { lightSum } from './light-sum';
import { PlaneMaker } from './plane-maker';

beforeAll(async () => {
  const bytes = await compileKernels(join(__dirname, '../../../kernels'));
  jest.doMock('@hastig/kernels/code', () => ({ __esModule: true, default: bytes }));
});

function random(length: number, seed: number): Uint8ClampedArray {
  let state = seed;
  return Uint8ClampedArray.from(
    { length },
    () => (state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff) >>> 23,
  );
}

const spaces: YuvSpace[] = [
  { matrix: 'bt709', fullRange: false },
  { matrix: 'bt601', fullRange: true },
];

it.each([
  [1, 1],
  [2, 3],
  [7, 5],
  [8, 8],
  [33, 17],
  [64, 36],
])('means by the kernels are those of their twin, %d × %d', async (width, height) => {
  for (const space of spaces) {
    // Memory that was used for something else before is not of account.
    expect((await lightSum(width, height, space)).room().buffer.byteLength).toBeGreaterThan(planarBytes(64, 36));
    for (const [weights, gain] of [
      [[1]],
      [[0.25, 0.5, 0.25]],
      [[0.1, 0.2, 0.3, 0.4]],
      [[1], 1.3],
      [[0.5, 0.5], 0.7],
    ] as [number[], number?][]) {
      const [sum, twin] = [await lightSum(width, height, space), new PlanarMean(width, height, space)];
      for (const [n, weight] of weights.entries()) {
        const data = new Uint8Array(random(planarBytes(width, height), (n >> 1) + 7));
        // Some of it stands still.
        if (n % 2) data.fill(n, 3, data.length >> 1);
        sum.room().set(data);
        sum.add(weight, gain);
        twin.add(data, weight, gain);
      }
      const [made, wanted] = [sum.mean()!.slice(), twin.picture().data];
      expect(made).toHaveLength(wanted.length);
      // Sums of floats in another order: a value that lies at the very limit of two may come to the other one.
      const off = wanted.filter((value, at) => value !== made[at]);
      expect(off.length).toBeLessThanOrEqual(wanted.length / 500);
      expect(wanted.every((value, at) => Math.abs(value - made[at]!) <= 1)).toBe(true);
      sum.close();
    }
  }
});

const mixings: [Mixing, number[]][] = [
  [{ combine: 'lightest' }, [1, 0.8, 0.64]],
  [{ combine: 'sum' }, [1, 0.5, 0.25]],
  [{ combine: 'sum', lit: { times: [4, 2, 1.5], plus: [0, 0, 0] } }, [1]],
  [{ combine: 'sum', lit: { times: [0.4, 0.4, 0.4], plus: [0.6, 0.3, 0] } }, [0.5, 0.5]],
  [{ combine: 'lightest', lit: { times: [2, 2, 2], plus: [0, 0, 0] } }, [1, 0.5]],
];

it.each([
  [3, 3],
  [33, 17],
  [64, 36],
])('what is put together otherwise is that of the twin, %d × %d', async (width, height) => {
  for (const space of spaces) {
    for (const [mixing, weights] of mixings) {
      const sum = await lightSum(width, height, space, mixing);
      const twin = new PlanarMean(width, height, space, mixing);
      for (const [n, weight] of weights.entries()) {
        const data = new Uint8Array(random(planarBytes(width, height), n + 3));
        // Some of it stands still.
        data.fill(90, 0, data.length >> 1);
        sum.room().set(data);
        sum.add(weight);
        twin.add(data, weight);
      }
      if (mixing.combine === 'sum') [sum, twin].forEach((one) => one.sumAll());
      const [made, wanted] = [sum.mean()!.slice(), twin.picture().data];
      const off = wanted.filter((value, at) => value !== made[at]);
      expect(off.length).toBeLessThanOrEqual(Math.max(2, wanted.length / 500));
      expect(wanted.every((value, at) => Math.abs(value - made[at]!) <= 1)).toBe(true);
      sum.close();
    }
  }
});

it.each([
  [2, 2],
  [6, 4],
  [8, 2],
  [34, 18],
  [64, 36],
])('planes by the kernels are those of their twin, %d × %d', async (width, height) => {
  for (const space of spaces) {
    const maker = new PlaneMaker(width, height, space);
    for (const seed of [1, 2]) {
      const pixels = random(4 * width * height, seed);
      const wanted = new Uint8Array(i420Bytes(width, height));
      rgbaToI420(pixels, width, height, space, wanted);
      expect((await maker.of(pixels)).slice()).toEqual(wanted);
    }
  }
});

it('light that is made more is more in a single picture too (power 2.4 of ITU-R BT.1886)', async () => {
  const [width, height] = [32, 16];
  const space: YuvSpace = { matrix: 'bt709', fullRange: true };
  const sum = await lightSum(width, height, space);
  sum.room().fill(128);
  sum.add(1, 1.5);
  const made = sum.mean()!;
  expect(made[0]).toBe(Math.round(255 * ((128 / 255) ** 2.4 * 1.5) ** (1 / 2.4)));
  expect(made[width * height]).toBe(128);
  sum.close();
});
