import { mixDown, mixedChannels } from './mixdown';

/** What is left of channels of which one alone is heard, at level 1. */
const alone = (channels: number, heard: number): number[] =>
  mixDown(Array.from({ length: channels }, (_, channel) => Float32Array.of(channel === heard ? 1 : 0))).map(
    ([level]) => Math.round(level! * 1e4) / 1e4,
  );

describe('sound mixed down to two channels', () => {
  it('has the shares of Recommendation ITU-R BS.775-3, annex 4 (3/2 to 2/0; from memory); low effects are left out', () => {
    // Left, right, middle, low effects, left and right surround.
    expect([0, 1, 2, 3, 4, 5].map((heard) => alone(6, heard))).toEqual([
      [1, 0],
      [0, 1],
      [0.7071, 0.7071],
      [0, 0],
      [0.7071, 0],
      [0, 0.7071],
    ]);
  });

  it('does the same without low effects, with no middle, and with four behind', () => {
    expect([2, 3, 4].map((heard) => alone(5, heard))).toEqual([
      [0.7071, 0.7071],
      [0.7071, 0],
      [0, 0.7071],
    ]);
    expect([2, 3].map((heard) => alone(4, heard))).toEqual([
      [0.7071, 0],
      [0, 0.7071],
    ]);
    expect(alone(3, 2)).toEqual([0.7071, 0.7071]);
    expect([4, 5, 6, 7].map((heard) => alone(8, heard))).toEqual([
      [0.7071, 0],
      [0, 0.7071],
      [0.7071, 0],
      [0, 0.7071],
    ]);
  });

  it('leaves one and two channels as they are, and takes two of what has no arrangement', () => {
    const one = Float32Array.of(0.25);
    expect(mixDown([one])).toEqual([one]);
    expect(mixDown([one, one])).toEqual([one, one]);
    expect(mixDown(Array.from({ length: 7 }, (_, n) => Float32Array.of(n)))).toEqual([
      Float32Array.of(0),
      Float32Array.of(1),
    ]);
    expect([1, 2, 6, 7].map(mixedChannels)).toEqual([1, 2, 2, 2]);
  });

  it('adds what is heard at once', () => {
    const [left, right] = mixDown([1, 0.5, 0.5, 1, 0, 0.25].map((level) => Float32Array.of(level)));
    expect(left![0]).toBeCloseTo(1 + 0.5 * Math.SQRT1_2, 6);
    expect(right![0]).toBeCloseTo(0.5 + 0.75 * Math.SQRT1_2, 6);
  });
});
