import { join } from 'node:path';
import { planarBytes, steadiedPicture, type PlaneMap } from '@hastig/core';
import { compileKernels } from '@hastig/kernels/compile';
import { Steadier } from './steadier';

beforeAll(async () => {
  const bytes = await compileKernels(join(__dirname, '../../../kernels'));
  jest.doMock('@hastig/kernels/code', () => ({ __esModule: true, default: bytes }));
});

const turn = 0.05;
const maps: PlaneMap[] = [
  [1, 0, 0, 1, 0, 0, 0, 0],
  [1, 0, 0, 1, 2.3, -1.7, 0, 0],
  [1, 0, 0, 1, -40, 25, 0, 0],
  [Math.cos(turn), Math.sin(turn), -Math.sin(turn), Math.cos(turn), 1, 2, 0, 0],
  [0.5, 0, 0, 0.5, 10, 5, 0, 0],
  [1.02, 0.01, -0.02, 0.98, 0.4, -0.3, 0.0004, -0.0007],
  [1, 0, 0, 1, -3, 2, 0, 0.002],
];

it.each([
  [1, 1],
  [5, 3],
  [33, 17],
  [64, 36],
])('pictures moved by the kernels are those of their twin, %d × %d', async (width, height) => {
  let state = 7;
  const data = Uint8Array.from(
    { length: planarBytes(width, height) },
    () => (state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fff_ffff) >>> 23,
  );
  const steadier = new Steadier(width, height);
  for (const map of maps) {
    for (const mirror of [false, true]) {
      const made = (await steadier.of({ width, height, data }, map, mirror)).slice();
      const wanted = steadiedPicture({ width, height, data }, map, mirror).data;
      expect(made).toEqual(wanted);
    }
  }
  expect((await steadier.of({ width, height, data }, maps[0]!, true)).slice()).toEqual(data);
});

it('what leaps too far for the numbers of the kernels is a picture all the same', async () => {
  const [width, height] = [64, 36];
  const data = new Uint8Array(planarBytes(width, height)).fill(90);
  const steadier = new Steadier(width, height);
  // Also so that a row's last place seems to lie where its first one does.
  for (const scale of [1e4, 32_768, 1e11, 2 ** 31 / 65_536]) {
    for (const map of [
      [scale, 0, 0, scale, 0, 0, 0, 0],
      [1, 0, 0, 1, 1e5, -1e5, 0, 0],
      [1, 0, 0, 1, 0, 0, -1 / 32, 0],
    ] as const) {
      // prettier-ignore
      const made = await steadier.of({ width, height, data }, map, false);
      expect(made.every((value) => value === 90)).toBe(true);
    }
  }
});
