import fc from 'fast-check';
import { PeakMaker, Peaks } from '.';

const PIECE = 2 ** 18;

/** Peaks of a sound, taken in in chunks of a size, in two channels. */
function peaksOf(channels: readonly Float32Array[], chunk: number): Peaks {
  const total = channels[0]!.length;
  const peaks = new Peaks(PIECE);
  for (let piece = 0; piece * PIECE < total; piece++) {
    const start = piece * PIECE;
    const maker = new PeakMaker(Math.min(PIECE, total - start));
    for (const channel of channels) {
      // From before the piece to past it, as a decoder's blocks lie.
      for (let at = Math.max(0, start - 100); at < start + PIECE + 100; at += chunk)
        maker.add(at - start, channel.subarray(at, at + chunk));
    }
    peaks.put(piece, maker.bytes());
  }
  return peaks;
}

const noise = (length: number): Float32Array => {
  let seed = 7;
  return Float32Array.from({ length }, (_, index) => {
    seed = (seed * 16_807) % 2_147_483_647;
    return Math.sin(index / 9000) * (seed / 1_073_741_824 - 1);
  });
};

describe('peaks of a sound', () => {
  const [left, right] = [noise(600_000), noise(600_000).map((value) => -value / 3)];
  const peaks = peaksOf([left, right], 1000);

  it('are at least as far out as every sample, and no farther than those of the stretches around', () => {
    const numbers = fc.tuple(fc.nat(599_999), fc.integer({ min: 1, max: 150_000 }));
    fc.assert(
      fc.property(numbers, ([from, length]) => {
        const to = Math.min(600_000, from + length);
        const { low, high } = peaks.between(from, to)!;
        const stretch = length >= 65_536 ? 65_536 : length >= 4096 ? 4096 : 256;
        const [first, end] = [from - (from % stretch), Math.min(600_000, Math.ceil(to / stretch) * stretch)];
        const extent = (a: number, b: number): [number, number] => {
          let [least, most] = [0, 0];
          for (let at = a; at < b; at++) {
            least = Math.min(least, left[at]!, right[at]!);
            most = Math.max(most, left[at]!, right[at]!);
          }
          return [least, most];
        };
        const [inner, outer] = [extent(from, to), extent(first, end)];
        expect(low).toBeLessThanOrEqual(inner[0]);
        expect(high).toBeGreaterThanOrEqual(inner[1]);
        expect(low).toBeGreaterThanOrEqual(outer[0] - 1 / 127 - 1e-6);
        expect(high).toBeLessThanOrEqual(outer[1] + 1 / 127 + 1e-6);
      }),
      { numRuns: 20 },
    );
  });

  it('are silence where there is no sound, and unknown where no piece is here', () => {
    expect(peaks.between(700_000, 700_100)).toEqual({ low: 0, high: 0 });
    expect(peaks.between(800_000, 900_000)).toBeUndefined();
    expect(new Peaks(PIECE).between(0, 10)).toBeUndefined();
    expect(peaks.has(0) && peaks.has(2) && !peaks.has(3)).toBe(true);
  });

  it('of a sound beyond full scale are full scale', () => {
    const loud = peaksOf([Float32Array.from([3, -3])], 2);
    expect(loud.between(0, 2)).toEqual({ low: -1, high: 1 });
  });

  it('refuse what is none', () => {
    expect(() => peaks.put(0, new Uint8Array(5))).toThrow(RangeError);
    expect(() => peaks.put(0, new PeakMaker(1000).bytes().subarray(0, 16))).toThrow(RangeError);
    expect(() => peaks.put(0, new PeakMaker(1000).bytes().fill(0, 0, 6))).toThrow(RangeError);
  });
});
