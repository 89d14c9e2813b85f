import { missingPieces } from './pieces';
import { copySize } from './proxy';

jest.mock('mediabunny', () => ({}));

it('makes only the pieces that are not there, the last as short as the whole ends', () => {
  expect(missingPieces(1205, 600, [{ piece: 0 }])).toEqual([
    { piece: 1, start: 600, end: 1200 },
    { piece: 2, start: 1200, end: 1205 },
  ]);
  expect(missingPieces(600, 600, [])).toHaveLength(1);
  expect(missingPieces(0, 600, [], 0.5)).toEqual([]);
  expect(missingPieces(1205, 600, [{ piece: 0 }, { piece: 1 }, { piece: 2 }])).toEqual([]);
});

it('begins where they are wanted, goes on to the end, and makes the rest behind', () => {
  const order = (near: number, there: readonly number[] = []): number[] =>
    missingPieces(
      2900,
      600,
      there.map((piece) => ({ piece })),
      near,
    ).map(({ piece }) => piece);
  expect(order(0.5)).toEqual([2, 3, 4, 0, 1]);
  expect(order(0.5, [2, 0])).toEqual([3, 4, 1]);
  expect(order(1)).toEqual([4, 0, 1, 2, 3]);
  expect(order(-3)).toEqual([0, 1, 2, 3, 4]);
});

it('a proxy is small and even, keeps the shape, and leaves fields their lines', () => {
  expect(copySize({ width: 1920, height: 1080 }, false)).toEqual({ width: 640, height: 360 });
  expect(copySize({ width: 1080, height: 1920 }, false)).toEqual({ width: 360, height: 640 });
  expect(copySize({ width: 321, height: 181 }, false)).toEqual({ width: 322, height: 182 });
  expect(copySize({ width: 1024, height: 576 }, true)).toEqual({ width: 1024, height: 576 });
});
