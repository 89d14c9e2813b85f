import fc from 'fast-check';
import { shrinkPlane, type ValuePlane } from './shrink';

const plane = (width: number, height: number, values: ArrayLike<number>, channels = 1): ValuePlane => ({
  ...{ values: Uint8Array.from(values), offset: 0, stride: width * channels, width, height, channels },
});

function shrunk(source: ValuePlane, factor: number): number[] {
  const { channels, values } = source;
  const [width, height] = [Math.floor(source.width / factor), Math.floor(source.height / factor)];
  const Kind = values instanceof Uint8Array ? Uint8Array : Uint16Array;
  const target = { values: new Kind(width * height * channels), offset: 0, stride: width * channels };
  shrinkPlane(source, factor, { ...target, width, height, channels });
  return [...target.values];
}

describe('a plane made smaller', () => {
  it('is the mean of what each value covers', () => {
    expect(shrunk(plane(4, 2, [0, 10, 20, 30, 40, 50, 60, 70]), 2)).toEqual([25, 45]);
  });

  it('leaves out what the factor leaves over', () => {
    expect(shrunk(plane(5, 2, [0, 10, 20, 30, 255, 40, 50, 60, 70, 255]), 2)).toEqual([25, 45]);
  });

  it('keeps channels apart and passes by what lies beside the rows', () => {
    expect(shrunk(plane(2, 2, [10, 200, 30, 100, 10, 200, 30, 100], 2), 2)).toEqual([20, 150]);
    const inMore: ValuePlane = { ...plane(6, 2, [9, 1, 3, 9, 9, 9, 9, 5, 7, 9, 9, 9]), offset: 1, width: 2 };
    expect(shrunk(inMore, 2)).toEqual([4]);
  });

  it('holds the values of 10 bits', () => {
    const wide = { ...plane(2, 2, []), values: Uint16Array.from([1000, 1023, 1000, 1023]) };
    expect(shrunk(wide, 2)).toEqual([1012]);
  });

  it('is at every size what its definition says, however its rows lie in memory', () => {
    const anyPlane = fc.record({
      factor: fc.integer({ min: 1, max: 16 }),
      across: fc.integer({ min: 1, max: 11 }),
      down: fc.integer({ min: 1, max: 4 }),
      over: fc.nat(3),
      offset: fc.nat(4),
      beside: fc.nat(5),
      channels: fc.integer({ min: 1, max: 2 }),
      seed: fc.nat(1000),
    });
    fc.assert(
      fc.property(anyPlane, ({ factor, across, down, over, offset, beside, channels, seed }) => {
        const [width, height] = [across * factor + Math.min(over, factor - 1), down * factor];
        const stride = width * channels + beside;
        const values = Uint8Array.from({ length: offset + stride * height + 4 }, (_, n) => (n * 97 + seed * 31) % 256);
        const found = shrunk({ values, offset, stride, width, height, channels }, factor);
        const wanted: number[] = [];
        for (let y = 0; y < down; y++)
          for (let x = 0; x < across; x++)
            for (let channel = 0; channel < channels; channel++) {
              let sum = 0;
              for (let dy = 0; dy < factor; dy++)
                for (let dx = 0; dx < factor; dx++)
                  sum += values[offset + (y * factor + dy) * stride + (x * factor + dx) * channels + channel]!;
              wanted.push(Math.floor(sum / (factor * factor) + 0.5));
            }
        expect(found).toEqual(wanted);
      }),
    );
  });
});
