import type { Fields, Source } from '@hastig/contract';
import fc from 'fast-check';
import { rowOf } from '../../test/projects';
import { fieldsOf, framesPerFileFrame, keepField, placeInFile, suggestedFields } from '.';

const scanned = (scan?: 'progressive' | 'topFirst' | 'bottomFirst'): Source => {
  const source = rowOf(10).sources[0]!;
  return { ...source, facts: { ...source.facts, video: { ...source.facts.video!, ...(scan && { scan }) } } };
};

describe('how fields are taken', () => {
  it('follows what the stream says, unless one chooses', () => {
    expect(fieldsOf(scanned()).use).toBe('woven');
    expect(fieldsOf(scanned('progressive')).use).toBe('woven');
    expect(suggestedFields(scanned('topFirst'))).toEqual({ use: 'first', first: 'top' });
    expect(suggestedFields(scanned('bottomFirst'))).toEqual({ use: 'first', first: 'bottom' });
    const chosen: Fields = { use: 'both', first: 'bottom' };
    expect(fieldsOf({ ...scanned('topFirst'), fields: chosen })).toBe(chosen);
  });

  it('finds each frame in the file: both fields of a frame, the first one first', () => {
    const both: Fields = { use: 'both', first: 'bottom' };
    expect(framesPerFileFrame(both)).toBe(2);
    expect([4, 5, 6].map((frame) => placeInFile(both, frame))).toEqual([
      { frame: 2, lines: 'bottom' },
      { frame: 2, lines: 'top' },
      { frame: 3, lines: 'bottom' },
    ]);
    expect(placeInFile({ use: 'first', first: 'top' }, 7)).toEqual({ frame: 7, lines: 'top' });
    expect(placeInFile({ use: 'woven', first: 'top' }, 7)).toEqual({ frame: 7 });
  });
});

describe('a picture of one field', () => {
  const plane = (width: number, height: number, offset = 0) => ({ offset, stride: width, width, height });

  it('keeps that field’s lines, and draws the others half way between them', () => {
    const top = Uint8Array.of(10, 99, 30, 99, 50);
    keepField(top, [plane(1, 5)], 'top');
    expect([...top]).toEqual([10, 20, 30, 40, 50]);
    const bottom = Uint8Array.of(99, 20, 99, 40, 99);
    keepField(bottom, [plane(1, 5)], 'bottom');
    expect([...bottom]).toEqual([20, 20, 30, 40, 40]);
  });

  it('treats every plane alike, and leaves what lies between the lines of a wider buffer', () => {
    const samples = Uint16Array.of(1000, 7, 0, 7, 3000, 7, 400, 0, 200, 0);
    keepField(
      samples,
      [
        { offset: 0, stride: 2, width: 1, height: 3 },
        { offset: 6, stride: 2, width: 1, height: 2 },
      ],
      'top',
    );
    expect([...samples]).toEqual([1000, 7, 2000, 7, 3000, 7, 400, 0, 400, 0]);
  });

  it('is the picture itself where nothing changes from line to line, at any size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.constantFrom('top' as const, 'bottom' as const),
        (width, height, lines) => {
          const samples = Uint8Array.from({ length: width * height }, (_, i) => (i % width) * 20);
          const before = [...samples];
          keepField(samples, [plane(width, height)], lines);
          expect([...samples]).toEqual(before);
        },
      ),
    );
  });
});
