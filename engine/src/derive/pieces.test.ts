import { missingPieces } from './pieces';
import { copySize } from './proxy';

jest.mock('mediabunny', () => ({}));

it('makes only the pieces that are not there, the last as short as the whole ends', () => {
  expect(missingPieces(1205, 600, [{ piece: 0 }])).toEqual([
    { piece: 1, start: 600, end: 1200 },
    { piece: 2, start: 1200, end: 1205 },
  ]);
  expect(missingPieces(600, 600, [])).toHaveLength(1);
  expect(missingPieces(1205, 600, [{ piece: 0 }, { piece: 1 }, { piece: 2 }])).toEqual([]);
});

it('a proxy is small and even, keeps the shape, and leaves fields their lines', () => {
  expect(copySize({ width: 1920, height: 1080 }, false)).toEqual({ width: 640, height: 360 });
  expect(copySize({ width: 1080, height: 1920 }, false)).toEqual({ width: 360, height: 640 });
  expect(copySize({ width: 321, height: 181 }, false)).toEqual({ width: 322, height: 182 });
  expect(copySize({ width: 1024, height: 576 }, true)).toEqual({ width: 1024, height: 576 });
});
