import { join } from 'node:path';
import { InBetween, type PlanarPicture } from '@hastig/core';
import { moving, peakRatio } from '@hastig/core/test/moving';
import { compileKernels } from '@hastig/kernels/compile';
import { findBetween, letGo } from './find-between';

beforeAll(async () => {
  const bytes = await compileKernels(join(__dirname, '../../../kernels'));
  jest.doMock('@hastig/kernels/code', () => ({ __esModule: true, default: bytes }));
});

/** Greatest difference of any value, and how alike two pictures are in decibels. */
function compared(a: Uint8Array, b: Uint8Array): { most: number; ratio: number } {
  expect(a).toHaveLength(b.length);
  return { most: a.reduce((most, value, n) => Math.max(most, Math.abs(value - b[n]!)), 0), ratio: peakRatio(a, b) };
}

const noisy = (width: number, height: number, seed: number): PlanarPicture => {
  const { data } = moving(width, height, {});
  let state = seed;
  return {
    ...{ width, height },
    data: data.map(() => (state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff) >>> 23),
  };
};

describe('pictures between two by the kernels', () => {
  it.each([
    ['a disc over a texture', 220, 140, { discX: 90 }, { discX: 102, discY: 61 }],
    ['at half size', 484, 140, { x: 0 }, { x: 13, y: -4 }],
    ['odd sizes', 201, 123, {}, { angle: 0.03, scale: 1.02 }],
    ['odd sizes at half size', 491, 101, {}, { x: -7 }],
  ] as const)('are those of their twin: %s', async (_, width, height, one, two) => {
    const [first, second] = [moving(width, height, one), moving(width, height, two)];
    const [kernels, twin] = [await findBetween(first, second), new InBetween(first, second)];
    expect(kernels).not.toBeInstanceOf(InBetween);
    expect(kernels.isCut).toBe(false);
    const [found, wantedMove] = [kernels.movement(), twin.movement()];
    expect([found.columns, found.rows]).toEqual([wantedMove.columns, wantedMove.rows]);
    const apart = found.x.filter((x, n) => Math.hypot(x - wantedMove.x[n]!, found.y[n]! - wantedMove.y[n]!) > 0.5);
    expect(apart.length / found.x.length).toBeLessThan(0.02);
    for (const share of [0.3, 0.5]) {
      const [made, wanted] = [kernels.at(share), twin.at(share)];
      // Sums come in another order there, and where two ways are as good the other one may be taken.
      expect(compared(made.data, wanted.data).ratio).toBeGreaterThan(50);
      expect(made.doubt).toBeCloseTo(wanted.doubt, 2);
    }
    letGo(kernels);
  });

  it('can be of any size', async () => {
    for (const [width, height] of [
      [1, 1],
      [2, 2],
      [3, 1],
      [1, 9],
      [5, 7],
      [8, 8],
      [9, 33],
      [63, 17],
    ] as const) {
      const [first, second] = [moving(width, height, {}), moving(width, height, { x: 1 })];
      const [kernels, twin] = [await findBetween(first, second), new InBetween(first, second)];
      expect(compared(kernels.at(0.5).data, twin.at(0.5).data).most).toBeLessThanOrEqual(2);
      letGo(kernels);
    }
  });

  it('hold out against noise, where nothing is found', async () => {
    const [first, second] = [noisy(200, 120, 1), noisy(200, 120, 2)];
    const [kernels, twin] = [await findBetween(first, second), new InBetween(first, second)];
    expect(kernels.isCut).toBe(twin.isCut);
    const { data, doubt } = kernels.at(0.5);
    expect(data).toHaveLength(first.data.length);
    expect(doubt).toBeGreaterThanOrEqual(0);
    letGo(kernels);
  });

  it('are not mixed up where memory is used again', async () => {
    const [a, b] = [moving(200, 120, {}), moving(200, 120, { x: 6 })];
    const before = await findBetween(a, b);
    const wanted = before.at(0.5).data;
    letGo(before);
    const other = await findBetween(moving(400, 300, {}), moving(400, 300, { y: 9 }));
    const again = await findBetween(a, b);
    expect(again.at(0.5).data).toEqual(wanted);
    letGo(other);
    letGo(again);
  });
});

it('what was found before makes the same pictures to the byte; what is no flow of these two is found anew', async () => {
  const [first, second] = [moving(220, 141, { discX: 90 }), moving(220, 141, { discX: 102, discY: 61, angle: 0.02 })];
  const written: Uint8Array<ArrayBuffer>[] = [];
  const keeper = (bytes?: Uint8Array<ArrayBuffer>) => ({
    read: () => Promise.resolve(bytes),
    write: (found: Uint8Array<ArrayBuffer>) => void written.push(found),
  });
  const made = async (bytes?: Uint8Array<ArrayBuffer>): Promise<Uint8Array> => {
    const between = await findBetween(first, second, keeper(bytes));
    const { data } = between.at(0.4);
    letGo(between);
    return data;
  };
  const wanted = await made();
  expect(written).toHaveLength(1);
  expect(compared(await made(written[0]), wanted).most).toBe(0);
  expect(written).toHaveLength(1);
  // Half of it, and one of another size.
  const other = await findBetween(moving(64, 48, {}), moving(64, 48, { x: 3 }), keeper());
  letGo(other);
  expect(compared(await made(written[0]!.slice(0, 500)), wanted).most).toBe(0);
  expect(compared(await made(written[1]), wanted).most).toBe(0);
});

it('what a memory was used for before is of no account', async () => {
  const [first, second] = [moving(220, 141, { discX: 90 }), moving(220, 141, { discX: 102, discY: 61, angle: 0.02 })];
  const made = async (): Promise<Uint8Array> => {
    const between = await findBetween(first, second);
    const { data } = between.at(0.4);
    letGo(between);
    return data;
  };
  const wanted = await made();
  for (const seed of [1, 2]) {
    const other = await findBetween(noisy(400, 300, seed), noisy(400, 300, seed + 7));
    other.at(0.5);
    letGo(other);
    expect(compared(await made(), wanted).most).toBe(0);
  }
});
