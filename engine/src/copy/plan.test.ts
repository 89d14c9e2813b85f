import { COPY_PIECE_FRAMES } from '@hastig/contract';
import { copySize, missingPieces } from './plan';

it('makes only the pieces that are not there, the last as short as the file ends', () => {
  const frames = 2 * COPY_PIECE_FRAMES + 5;
  expect(missingPieces(frames, [{ piece: 0 }])).toEqual([
    { piece: 1, start: COPY_PIECE_FRAMES, end: 2 * COPY_PIECE_FRAMES },
    { piece: 2, start: 2 * COPY_PIECE_FRAMES, end: frames },
  ]);
  expect(missingPieces(COPY_PIECE_FRAMES, [])).toHaveLength(1);
  expect(missingPieces(frames, [{ piece: 0 }, { piece: 1 }, { piece: 2 }])).toEqual([]);
});

it('is small and even, keeps the shape, and leaves fields their lines', () => {
  expect(copySize({ width: 1920, height: 1080 }, false)).toEqual({ width: 640, height: 360 });
  expect(copySize({ width: 1080, height: 1920 }, false)).toEqual({ width: 360, height: 640 });
  expect(copySize({ width: 321, height: 181 }, false)).toEqual({ width: 322, height: 182 });
  expect(copySize({ width: 1024, height: 576 }, true)).toEqual({ width: 1024, height: 576 });
});
