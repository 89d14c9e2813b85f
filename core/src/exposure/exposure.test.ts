import fc from 'fast-check';
import { exposureOf, framesExposed, instant, type Exposure } from '.';

const exposed = (change: Partial<Exposure>): Exposure => ({ ...instant, ...change });
/** Each frame's weight, what is blended by its share of both neighbours. */
function plain(parts: ReturnType<typeof framesExposed>): [number, number][] {
  const weights = new Map<number, number>();
  const add = (frame: number, weight: number): void => {
    if (weight > 0) weights.set(frame, (weights.get(frame) ?? 0) + weight);
  };
  for (const { frame, share = 0, weight } of parts) {
    add(frame, (1 - share) * weight);
    add(frame + 1, share * weight);
  }
  return [...weights].map(([frame, weight]) => [frame, Math.round(weight * 1e4) / 1e4]);
}

/** Weights found by looking at very many moments, which is what an exposure means. */
function lookedAt(positionAt: (after: number) => number, open: number, frames: number, moments = 20_000) {
  const weights = new Map<number, number>();
  for (let n = 0; n < moments; n++) {
    const position = positionAt(((n + 0.5) / moments) * open);
    // A rounding error short of a frame is at it.
    const frame = Math.min(frames - 1, Math.max(0, Math.floor(position + 1e-6)));
    weights.set(frame, (weights.get(frame) ?? 0) + 1 / moments);
  }
  return weights;
}

describe('an exposure', () => {
  it('is the frame that stands, as an instant', () => {
    expect(plain(framesExposed(() => 7.9, instant, 100))).toEqual([[7, 1]]);
    expect(plain(framesExposed(() => 7.999_999_9, instant, 100))).toEqual([[8, 1]]);
    expect(plain(framesExposed((after) => -3 + after, instant, 100))).toEqual([[0, 1]]);
    expect(plain(framesExposed((after) => 300 + after, instant, 100))).toEqual([[99, 1]]);
  });

  it('has every frame that passes at a whole speed once and alike, and the next one not', () => {
    const four = framesExposed((after) => 20 + 4 * after, exposed({ shutter: 360 }), 100);
    expect(plain(four)).toEqual([20, 21, 22, 23].map((frame) => [frame, 0.25]));
    const half = framesExposed((after) => 20 + 4 * after, exposed({ shutter: 180 }), 100);
    expect(plain(half)).toEqual([20, 21].map((frame) => [frame, 0.5]));
  });

  it('has each frame for as long as it stands', () => {
    // ×2.5 from 10.25: frame 10 for 0.75 of 2.5, 11 whole, 12 for the rest.
    const parts = framesExposed((after) => 10.25 + 2.5 * after, exposed({ shutter: 360 }), 100);
    expect(plain(parts)).toEqual([
      [10, 0.3],
      [11, 0.4],
      [12, 0.3],
    ]);
  });

  it('is the same backwards', () => {
    const there = framesExposed((after) => 10 + 6 * after, exposed({ shutter: 360 }), 100);
    const back = framesExposed((after) => 16 - 6 * after - 1e-5, exposed({ shutter: 360 }), 100);
    expect(plain(back)).toEqual(plain(there));
  });

  it('holds the last frame past the end, and one frame of a freeze', () => {
    expect(plain(framesExposed((after) => 98 + 4 * after, exposed({ shutter: 360 }), 100))).toEqual([
      [98, 0.25],
      [99, 0.75],
    ]);
    expect(plain(framesExposed(() => 42, exposed({ shutter: 360, slow: 'blended' }), 100))).toEqual([[42, 1]]);
  });

  it('blends the two neighbours by their share where it is slow, and holds at or above the floor', () => {
    const slow = exposed({ slow: 'blended' });
    expect(plain(framesExposed((after) => 10.25 + 0.5 * after, slow, 100))).toEqual([
      [10, 0.75],
      [11, 0.25],
    ]);
    expect(plain(framesExposed((after) => 10.25 + after, slow, 100))).toEqual([[10, 1]]);
    expect(plain(framesExposed((after) => 99.5 + 0.5 * after, slow, 100))).toEqual([[99, 1]]);
    expect(plain(framesExposed((after) => 10 + 0.5 * after, slow, 100))).toEqual([[10, 1]]);
    // Backwards it is slow too.
    expect(plain(framesExposed((after) => 10.25 - 0.5 * after, slow, 100))).toEqual([
      [10, 0.75],
      [11, 0.25],
    ]);
  });

  it('of an open shutter that is slow is the mean of its moments’ blends', () => {
    const parts = framesExposed(
      (after) => 10 + 0.5 * after,
      exposed({ slow: 'blended', shutter: 360, samples: 64 }),
      100,
    );
    // The mean share of positions from 10 to 10.5.
    expect(plain(parts)).toEqual([
      [10, 0.75],
      [11, 0.25],
    ]);
  });

  it('is what very many moments would show, at any speed, with turns and jumps (brute force)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: -40, max: 40, noNaN: true }),
        fc.double({ min: -30, max: 30, noNaN: true }),
        fc.constantFrom(90, 180, 360),
        (from, speed, bend, shutter) => {
          const positionAt = (after: number): number => from + speed * after + bend * after * after;
          const parts = framesExposed(positionAt, exposed({ shutter }), 64);
          expect(parts.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
          expect(parts.every(({ weight }) => weight > 0)).toBe(true);
          const true_ = lookedAt(positionAt, shutter / 360, 64);
          const off = parts.reduce((sum, { frame, weight }) => sum + Math.abs(weight - (true_.get(frame) ?? 0)), 0);
          // A turn inside one of its cells may hide a frame's moment.
          expect(off).toBeLessThan(0.07);
        },
      ),
      { numRuns: 300, seed: 7 },
    );
  });

  it('is looked at often where what moves will say how often, and at most as often as eight bits can tell', () => {
    const open = exposed({ slow: 'compensated', shutter: 360 });
    const moments = (samples: Exposure['samples']): number =>
      framesExposed((after) => 10 + 2 * after, { ...open, samples }, 100).length;
    // Two source frames pass: as many samples for each.
    expect([moments(8), moments(16), moments(1000), moments('auto')]).toEqual([8, 16, 256, 64]);
  });

  it('of a very fast clip has all that passes, in little work', () => {
    let asked = 0;
    const parts = framesExposed(
      (after) => {
        asked++;
        return 500 * after;
      },
      exposed({ shutter: 360 }),
      100_000,
    );
    expect(parts).toHaveLength(500);
    for (const { weight } of parts) expect(weight).toBeCloseTo(0.002, 4);
    expect(asked).toBeLessThan(10_000);
  });
});

describe('a time-lapse', () => {
  const at =
    (speed: number, from = 0) =>
    (after: number) =>
      from + speed * after;
  const all = { ...instant, shutter: 360 };

  it('looks at every so many frames, counted from one', () => {
    const every = { frames: 10, from: 3 };
    const shown = [0, 3, 7, 12, 13, 29].map((from) => framesExposed(at(1, from), { ...instant, every }, 100));
    expect(shown.map(([part]) => part!.frame)).toEqual([0, 3, 3, 3, 13, 23]);
    // 500 times as fast, every hundredth: five each, all for as long.
    const parts = framesExposed(at(500), { ...all, every: { frames: 100 } }, 10_000);
    expect(parts.map(({ frame }) => frame)).toEqual([0, 100, 200, 300, 400]);
    for (const { weight } of parts) expect(weight).toBeCloseTo(0.2, 3);
  });

  it('blends neighbours that are so many frames apart', () => {
    const wish = { slow: 'compensated', every: { frames: 4 } } as const;
    const parts = framesExposed(at(1, 13), exposureOf(wish), 100);
    expect(parts).toEqual([
      { frame: 12, weight: 0.75 },
      { frame: 16, weight: 0.25 },
    ]);
  });

  it('averages at most so many, evenly spread, and leaves no light out', () => {
    const parts = framesExposed(at(500), { ...all, most: 32 }, 10_000);
    expect(parts).toHaveLength(32);
    expect(parts.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 6);
    const steps = parts.slice(1).map(({ frame }, n) => frame - parts[n]!.frame);
    expect([Math.min(...steps), Math.max(...steps)]).toEqual([15, 16]);
    // Fewer than that pass: all of them.
    expect(framesExposed(at(5), { ...all, most: 32 }, 100)).toHaveLength(5);
  });

  it('takes the frames that are coded by themselves, as a draft', () => {
    const parts = framesExposed(at(500), { ...instant, keys: true }, 10_000);
    expect(parts).toEqual([{ frame: 0, key: true, weight: 1 }]);
  });
});
