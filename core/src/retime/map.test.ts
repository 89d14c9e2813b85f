import bezierEasing from 'bezier-easing';
import Decimal from 'decimal.js';
import fc from 'fast-check';
import {
  constantSpan,
  easeNames,
  eases,
  frameCount,
  heldFrame,
  linearPositionSpan,
  mapLength,
  meanSpeed,
  positionAt,
  positionBefore,
  rampSpan,
  showingsOf,
  sourceShortages,
  spanTravel,
  speedAt,
  speedBefore,
  splitAt,
  timesAt,
  realFrameFloor,
  type Ease,
} from '..';
import { anyMap, anySpeedSpan, deviation, mapOf, rate, realTime } from '../../test/maps';

describe('check values (common practice)', () => {
  it('50% lasts twice as long and shows each frame twice at equal rates', () => {
    const map = mapOf([constantSpan(0.5, 300)]);
    expect(positionAt(map, 300)).toBe(150);
    expect(Array.from({ length: 6 }, (_, n) => heldFrame(map, n))).toEqual([0, 0, 1, 1, 2, 2]);
  });

  it('0→0, 50→25, 75→10, 150→150 in straight lines has speeds 1/2, −3/5, 28/15 and lasts 150', () => {
    const map = mapOf([linearPositionSpan(25, 50), linearPositionSpan(-15, 25), linearPositionSpan(140, 75)]);
    expect([20, 60, 100].map((t) => speedAt(map, t))).toEqual([0.5, -0.6, 28 / 15].map((v) => expect.closeTo(v, 12)));
    expect([0, 50, 75, 150].map((t) => positionAt(map, t))).toEqual([0, 25, 10, 150].map((f) => expect.closeTo(f, 9)));
    expect(mapLength(map)).toBe(150);
  });

  it('a burst of 800% for 5 frames passes 40 source frames at equal rates', () => {
    expect(spanTravel(constantSpan(8, 5), 1)).toBe(40);
  });

  it('8 s squeezed into 1 s means 800% on average', () => {
    const span = rampSpan(1, 15, 30, eases['ease-in-out']);
    expect(meanSpeed(span)).toBeCloseTo(8, 12);
  });

  it('60 fps at 10% on 30 shows each source frame five times', () => {
    const map = mapOf([constantSpan(0.1, 100)], { sourceRate: rate(60) });
    const shown = Array.from({ length: 20 }, (_, n) => heldFrame(map, n));
    expect(shown).toEqual([0, 1, 2, 3].flatMap((frame) => Array(5).fill(frame)));
  });

  it.each([
    [60, 30, 0.5],
    [60, 24, 0.4],
    [100, 25, 0.25],
    [24, 24, 1],
  ])('the real-frame floor of %i on %i is %d', (source, output, floor) => {
    expect(realFrameFloor(rate(source), rate(output))).toBe(floor);
  });
});

describe('eases', () => {
  // CSS Easing Functions Level 1 (W3C) gives the handles; the areas are integrals of those curves.
  it.each([
    ['ease', 0.66875],
    ['ease-in', 0.374],
    ['ease-out', 0.626],
    ['ease-in-out', 0.5],
    ['linear', 0.5],
  ] as const)('%s has area %d', (name, area) => {
    expect(meanSpeed(rampSpan(0, 1, 10, eases[name]))).toBeCloseTo(area, 12);
  });

  it.each(easeNames)('%s agrees with a general easing package (bezier-easing)', (name) => {
    const theirs = bezierEasing(...(eases[name] as Ease));
    const map = mapOf([rampSpan(0, 1, 100, eases[name])]);
    // The package works in single precision and stops its search at 1e-7.
    for (let t = 0; t <= 100; t += 0.5) expect(speedAt(map, t)).toBeCloseTo(theirs(t / 100), 5);
  });
});

describe('position', () => {
  it('agrees with numerical integration in 40 digits', () => {
    const D = Decimal.clone({ precision: 40 });
    fc.assert(
      fc.property(anySpeedSpan, (span) => {
        // ∫ Y X′ du by Gauss–Legendre with 3 nodes, exact for polynomials up to degree 5 (Abramowitz & Stegun 25.4.30).
        const node = new D('0.6').sqrt().div(2);
        const bernstein = (c: Decimal[], u: Decimal): Decimal => {
          const w = new D(1).minus(u);
          return c[0]!
            .mul(w.pow(3))
            .add(c[1]!.mul(3).mul(u).mul(w.pow(2)))
            .add(c[2]!.mul(3).mul(u.pow(2)).mul(w))
            .add(c[3]!.mul(u.pow(3)));
        };
        const [x1, x2] = span.x.map((x) => new D(x)) as [Decimal, Decimal];
        const slope = (u: Decimal): Decimal => {
          const w = new D(1).minus(u);
          return x1
            .mul(3)
            .mul(w.pow(2))
            .add(x2.minus(x1).mul(6).mul(u).mul(w))
            .add(new D(1).minus(x2).mul(3).mul(u.pow(2)));
        };
        const y = span.y.map((v) => new D(v));
        const integral = [
          [new D('0.5').minus(node), 5],
          [new D('0.5'), 8],
          [new D('0.5').add(node), 5],
        ].reduce(
          (sum, [u, weight]) =>
            sum.add(
              bernstein(y, u as Decimal)
                .mul(slope(u as Decimal))
                .mul(weight as number)
                .div(18),
            ),
          new D(0),
        );
        const map = mapOf([span]);
        expect(positionAt(map, span.frames)).toBeCloseTo(integral.mul(span.frames).toNumber(), 8);
      }),
    );
  });

  it('is the integral of the speed at every moment', () => {
    fc.assert(
      fc.property(anyMap(anySpeedSpan), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (map, share) => {
        const t = share * mapLength(map);
        const h = 1e-4;
        const before = positionAt(map, t - h);
        const slope = (positionAt(map, t + h) - before) / (2 * h);
        const ratio = (map.sourceRate.num * map.outputRate.den) / (map.sourceRate.den * map.outputRate.num);
        const speeds = [t - h, t, t + h].map((at) => speedAt(map, at) * ratio);
        // Between the speeds around it: true of every smooth stretch, and of joints.
        expect(slope).toBeGreaterThanOrEqual(Math.min(...speeds) - 0.01 * (1 + Math.abs(slope)) - spread(speeds));
        expect(slope).toBeLessThanOrEqual(Math.max(...speeds) + 0.01 * (1 + Math.abs(slope)) + spread(speeds));
      }),
    );
  });

  it('keeps the exact joint: speed in before, speed out after, the jump between', () => {
    const map = mapOf([constantSpan(1, 10), { ...constantSpan(-2, 10), jump: 40 }]);
    expect([positionBefore(map, 10), positionAt(map, 10), speedBefore(map, 10), speedAt(map, 10)]).toEqual([
      10, 50, 1, -2,
    ]);
    expect(positionAt(map, 20)).toBe(30);
  });

  it('goes on past both ends at the last speed', () => {
    const map = mapOf([constantSpan(0.5, 10)]);
    expect([positionAt(map, -2), positionAt(map, 14)]).toEqual([-1, 7]);
  });

  it('has a finite speed at handles that stand on an end, and an infinite one at an upright handle', () => {
    const smooth = mapOf([{ of: 'position', frames: 10, x: [0, 1], y: [0, 0, 10, 10] }]);
    expect(speedAt(smooth, 0)).toBe(1);
    const upright = mapOf([{ of: 'position', frames: 10, x: [0, 0.5], y: [0, 5, 10, 10] }]);
    expect(speedAt(upright, 0)).toBe(Infinity);
  });

  it('counts output frames by rounding up, and holds frames a rounding error short', () => {
    expect(frameCount(mapOf([constantSpan(2, 62.5)]))).toBe(63);
    expect(frameCount(mapOf([constantSpan(1 / 3, 450.0000001)]))).toBe(450);
    expect(heldFrame(mapOf([constantSpan(0.1, 2000)]), 30)).toBe(3);
  });

  it('tells where the source runs out, and holds its ends there', () => {
    const map = mapOf([constantSpan(1, 20)], { sourceFrames: 10, start: -5 });
    expect(sourceShortages(map)).toEqual([
      { from: 0, frames: 5, side: 'before' },
      { from: 15, frames: 5, side: 'after' },
    ]);
    expect([0, 5, 14, 19].map((n) => heldFrame(map, n))).toEqual([0, 0, 9, 9]);
  });
});

const spread = (values: number[]): number => Math.max(...values) - Math.min(...values);

describe('splitting', () => {
  it('moves no position by more than 1e-9 frames', () => {
    fc.assert(
      fc.property(anyMap(), fc.double({ min: 0, max: 1, noNaN: true }), (map, share) => {
        const length = mapLength(map);
        const split = splitAt(map, share * length).map;
        expect(mapLength(split)).toBeCloseTo(length, 9);
        expect(deviation(map, split, 0, length)).toBeLessThan(1e-9);
      }),
      { numRuns: 300 },
    );
  });

  it('leaves no sliver at a joint, and refuses what is outside', () => {
    const map = mapOf([constantSpan(1, 10), constantSpan(2, 10)]);
    expect(splitAt(map, 10 + 1e-12).map).toBe(map);
    expect(splitAt(map, 20).index).toBe(2);
    expect(() => splitAt(map, 21)).toThrow('outside 0…20');
  });
});

describe('the inverse', () => {
  it('finds every moment at which a position stands', () => {
    fc.assert(
      fc.property(anyMap(), fc.double({ min: 0, max: 0.999, noNaN: true }), (map, share) => {
        const t = share * mapLength(map);
        const found = timesAt(map, positionAt(map, t));
        const near = found.some(({ from, to }) => t >= from - 1e-4 && t <= to + 1e-4);
        if (!near) {
          // Where the source all but stands still, time is not determined: then the position must agree.
          const best = Math.min(...found.map(({ from }) => Math.abs(positionAt(map, from) - positionAt(map, t))));
          expect(best).toBeLessThan(1e-7);
        }
        for (const { from } of found) {
          const missed = Math.min(
            Math.abs(positionAt(map, from) - positionAt(map, t)),
            Math.abs(positionBefore(map, from) - positionAt(map, t)),
          );
          expect(missed).toBeLessThan(1e-6);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('gives both passes of a there and back, and the whole of a freeze', () => {
    const map = mapOf([constantSpan(1, 50), constantSpan(0, 10), constantSpan(-1, 50)]);
    expect(timesAt(map, 20)).toEqual([20, 90].map((t) => ({ from: expect.closeTo(t, 9), to: expect.closeTo(t, 9) })));
    expect(timesAt(map, 50)).toEqual([{ from: expect.closeTo(50, 9), to: expect.closeTo(60, 9) }]);
    expect(timesAt(map, 70)).toEqual([]);
    expect(showingsOf(map, 20)).toEqual([
      { from: 20, to: 21 },
      { from: 90, to: 91 },
    ]);
  });

  it('says on which output frames a source frame is held', () => {
    expect(showingsOf(mapOf([constantSpan(0.25, 600)]), 3)).toEqual([{ from: 12, to: 16 }]);
    expect(showingsOf(realTime(150), 149)).toEqual([{ from: 149, to: 150 }]);
    expect(showingsOf(mapOf([constantSpan(2, 75)]), 3)).toEqual([]);
  });
});
