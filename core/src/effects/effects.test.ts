import type { Flash, Trail } from '@hastig/contract';
import {
  boxAt,
  boxInFrame,
  FLASH_BEFORE,
  FLASH_FRAMES,
  flashCourse,
  framedBox,
  holdsFor,
  lightOf,
  litBy,
  mapPoint,
  movedEffects,
  pictureMap,
  scaledEffects,
  trailParts,
  trailWeights,
} from '..';

const film = { num: 24, den: 1 };
const trail: Trail = {
  ...{ id: 't', kind: 'trail', apart: 1, by: 'frames', copies: 5, decay: 0.8, combine: 'lightest' },
};
const flash: Flash = {
  ...{ id: 'f', kind: 'flash', way: 'light', strength: 3, colour: '#ffffff', curve: 'linear', peak: FLASH_BEFORE },
  over: { by: 'output', from: 20, to: 20 + FLASH_FRAMES },
};

describe('a trail', () => {
  it('has five copies, each a frame of 24 earlier and at 80% of the one before (common practice)', () => {
    const parts = trailParts(trail, film);
    expect(parts.map(({ after }) => Math.round(after * 24 * 1e9) / 1e9)).toEqual([0, -1, -2, -3, -4, -5]);
    expect(parts.map(({ weight }) => weight.toFixed(5))).toEqual([
      ...['1.00000', '0.80000', '0.64000', '0.51200', '0.40960', '0.32768'],
    ]);
    expect(trailParts({ ...trail, by: 'seconds', apart: -0.5, copies: 1 }, film)[1]!.after).toBe(0.5);
    // What counts nothing is not looked at.
    expect(trailParts({ ...trail, decay: 0 }, film)).toHaveLength(1);
  });

  it('counts as it is put together', () => {
    expect(trailWeights('sum', [1, 0.5])).toEqual([1, 0.5]);
    expect(trailWeights('lightest', [1, 0.5])).toEqual([1, 0.5]);
    expect(trailWeights('mean', [1, 0.5, 0.5])).toEqual([0.5, 0.25, 0.25]);
    // A over B, both opaque (Porter and Duff 1984): half of the last, then half of what is left, then the rest.
    expect(trailWeights('over', [1, 0.5, 0.5])).toEqual([0.25, 0.25, 0.5]);
    expect(trailWeights('over', [1, 1])).toEqual([0, 1]);
    for (const decay of [0.1, 0.5, 0.9]) {
      const weights = trailParts({ ...trail, decay }, film).map(({ weight }) => weight);
      for (const combine of ['mean', 'over'] as const)
        expect(trailWeights(combine, weights).reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 12);
    }
  });

  it('holds where it is said to, and where it is faster than it is said to be', () => {
    const moment = { output: 10, source: 100 };
    expect(holdsFor(trail, moment, 1)).toBe(true);
    expect(holdsFor({ only: { than: 'faster', speed: 2 } }, moment, -3)).toBe(true);
    expect(holdsFor({ only: { than: 'faster', speed: 2 } }, moment, 2)).toBe(false);
    expect(holdsFor({ only: { than: 'slower', speed: 1 } }, moment, 1)).toBe(false);
    expect(holdsFor({ over: { by: 'source', from: 100, to: 101 } }, moment, 1)).toBe(true);
    expect(holdsFor({ over: { by: 'output', from: 0, to: 10 } }, moment, 1)).toBe(false);
  });
});

describe('a flash', () => {
  it('of eight frames that begins three before its cut rises to it and falls from it', () => {
    const course = (curve: Flash['curve']): number[] =>
      Array.from({ length: 10 }, (_, n) => flashCourse({ curve, peak: 3 }, n - 1, 8));
    expect(course('linear')).toEqual([0, 0.25, 0.5, 0.75, 1, 0.8, 0.6, 0.4, 0.2, 0].map((x) => expect.closeTo(x, 12)));
    expect(course('sharp')).toEqual(course('linear').map((x) => expect.closeTo(x * x, 12)));
    expect(course('smooth')).toEqual(course('linear').map((x) => expect.closeTo(x * x * (3 - 2 * x), 12)));
    // One that is all peak.
    expect(flashCourse({ curve: 'linear', peak: 0 }, 0, 1)).toBe(1);
    expect(flashCourse({ curve: 'linear', peak: 9 }, 0, 1)).toBe(1);
  });

  it('doubles light with every stop, tinted by its colour', () => {
    expect(litBy(flash, 3)).toEqual({ times: [8, 8, 8], plus: [0, 0, 0] });
    expect(litBy(flash, 1)!.times[0]).toBeCloseTo(2 ** 1.5, 12);
    expect(litBy(flash, 8)).toBeUndefined();
    expect(litBy({ ...flash, strength: 0 }, 3)).toBeUndefined();
    const amber = litBy({ ...flash, colour: '#ff8000' }, 3)!;
    expect(amber.times).toEqual([8, expect.closeTo(1 + 7 * lightOf(128), 12), 1]);
  });

  it('dips to a colour: at its peak nothing else is left', () => {
    const dip: Flash = { ...flash, way: 'dip', strength: 1, colour: '#000000' };
    expect(litBy(dip, 3)).toEqual({ times: [0, 0, 0], plus: [0, 0, 0] });
    expect(litBy(dip, 1)).toEqual({ times: [0.5, 0.5, 0.5], plus: [0, 0, 0] });
    const white = litBy({ ...dip, colour: '#ffffff', strength: 0.5 }, 3);
    expect(white).toEqual({ times: [0.5, 0.5, 0.5], plus: [0.5, 0.5, 0.5] });
  });

  it('goes along with an edit, its peak too; what is gone has none left', () => {
    expect(movedEffects([flash], (at) => 2 * at)).toEqual([
      { ...flash, over: { by: 'output', from: 40, to: 56 }, peak: 6 },
    ]);
    // Cut off at the clip's beginning.
    expect(movedEffects([flash], (at) => at - 22)).toEqual([
      { ...flash, over: { by: 'output', from: 0, to: 6 }, peak: 1 },
    ]);
    expect(movedEffects([flash], (at) => at - 28)).toEqual([]);
    const inSource: Flash = { ...flash, over: { by: 'source', from: 10, to: 18 } };
    expect(movedEffects([inSource], (at) => at + 100)).toEqual([inSource]);
    expect(scaledEffects([inSource, trail], 0.5)).toEqual([
      { ...inSource, over: { by: 'source', from: 5, to: 9 }, peak: 1.5 },
      trail,
    ]);
  });
});

describe('a reframe', () => {
  const frame = { width: 1920, height: 1080 };

  it('takes the largest box of its shape, and moves it in where it lies out', () => {
    const whole = { x: 0.5, y: 0.5, size: 1 };
    expect(boxInFrame(whole, 16 / 9, frame)).toEqual({ left: 0, top: 0, width: 1, height: 1 });
    const upright = boxInFrame(whole, 9 / 16, frame);
    expect(upright.width * 1920).toBeCloseTo(607.5, 9);
    expect(upright).toMatchObject({ top: 0, height: 1, left: expect.closeTo(0.5 - 607.5 / 3840, 12) });
    const scope = boxInFrame(whole, 2.39, frame);
    expect(scope.height * 1080).toBeCloseTo(1920 / 2.39, 9);
    expect(boxInFrame({ x: 0, y: 1, size: 0.5 }, 16 / 9, frame)).toEqual({
      left: 0,
      top: 0.5,
      width: 0.5,
      height: 0.5,
    });
  });

  it('brings its box to the frame, as large as it fits', () => {
    for (const shape of [16 / 9, 9 / 16, 1, 0.8, 2.39]) {
      const box = boxInFrame({ x: 0.3, y: 0.6, size: 0.5 }, shape, frame);
      const settings = framedBox(box);
      const map = pictureMap(settings, frame, frame);
      const upper = mapPoint(map, { x: box.left * 1920, y: box.top * 1080 });
      const lower = mapPoint(map, { x: (box.left + box.width) * 1920, y: (box.top + box.height) * 1080 });
      const [wide, high] = [lower.x - upper.x, lower.y - upper.y];
      expect(wide / high).toBeCloseTo(shape, 9);
      expect(Math.max(wide / 1920, high / 1080)).toBeCloseTo(1, 9);
      expect(upper.x + lower.x).toBeCloseTo(1920, 6);
      expect(upper.y + lower.y).toBeCloseTo(1080, 6);
    }
  });

  it('goes from one box to the other by its ease, each part of the way closer by the same factor', () => {
    const move = { from: { x: 0.2, y: 0.5, size: 1 }, to: { x: 0.6, y: 0.5, size: 0.25 }, ease: [1 / 3, 1 / 3, 2 / 3, 2 / 3] as [number, number, number, number] }; // prettier-ignore
    expect(boxAt(move, 0)).toEqual(move.from);
    expect(boxAt(move, 2)).toEqual({ x: 0.6, y: 0.5, size: expect.closeTo(0.25, 12) });
    expect(boxAt(move, 0.5)).toEqual({ x: expect.closeTo(0.4, 9), y: 0.5, size: expect.closeTo(0.5, 9) });
  });
});
