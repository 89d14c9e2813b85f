import type { Keyed, RetimeMap } from '@hastig/contract';
import bezierEasing from 'bezier-easing';
import fc from 'fast-check';
import {
  constantSpan,
  eases,
  EditRefused,
  makeRate,
  momentAt,
  movedKeyed,
  outputsOfKey,
  rampSpan,
  recounted,
  reverseRange,
  valueAt,
  withEasedKey,
  withMovedKey,
  withoutValueKey,
  withValueKey,
  type Ease,
} from '..';

const map: RetimeMap = {
  ...{ sourceRate: makeRate(30), outputRate: makeRate(30), sourceFrames: 200, start: 0 },
  spans: [constantSpan(1, 30), rampSpan(1, 0.25, 40), constantSpan(0, 20), constantSpan(0.25, 40)],
};
const back = reverseRange(map, { from: 0, to: 60 });
const at = (output: number, source = output) => ({ output, source });

describe('a value with keys', () => {
  const keyed: Keyed = {
    by: 'output',
    keys: [
      { at: 10, value: 1, ease: [...eases.linear] },
      { at: 30, value: 3 },
      { at: 40, value: 0 },
    ],
  };

  it('holds before the first and after the last, and runs between as its eases say', () => {
    expect([0, 10, 15, 20, 30, 40, 99].map((t) => valueAt(keyed, at(t)))).toEqual([1, 1, 1.5, 2, 3, 0, 0]);
    // Unless told, slowly at both ends: halfway in the middle.
    expect(valueAt(keyed, at(35))).toBeCloseTo(1.5, 9);
  });

  // CSS Easing Functions Level 1, by the package bezier-easing (MIT), which solves for the parameter in another way.
  it('follows a cubic Bézier as another implementation has it', () => {
    const numbers = fc.tuple(
      ...[0, 1, 2, 3].map(() => fc.double({ min: 0, max: 1, noNaN: true })),
      fc.double({ min: 0.01, max: 0.99, noNaN: true }),
    );
    fc.assert(
      fc.property(numbers, ([x1, y1, x2, y2, share]) => {
        const ease = [x1!, y1!, x2!, y2!] as Ease;
        const [first, last] = [withEasedKey(keyed, keyed.keys[1]!, ease), bezierEasing(...ease)];
        expect(valueAt(first, at(30 + 10 * share!))).toBeCloseTo(3 - 3 * last(share!), 3);
      }),
      { seed: 5, numRuns: 200 },
    );
  });

  it('gets keys, moves and loses them', () => {
    const more = withValueKey(keyed, at(20), 9);
    expect(more.keys.map(({ at: time, value }) => [time, value])).toEqual([
      [10, 1],
      [20, 9],
      [30, 3],
      [40, 0],
    ]);
    // Where one is, it is that one, its ease kept.
    expect(withValueKey(keyed, at(10.2), 5).keys[0]).toEqual({ at: 10, value: 5, ease: [...eases.linear] });
    expect(withMovedKey(keyed, keyed.keys[0]!, 35).keys.map(({ at: time }) => time)).toEqual([30, 35, 40]);
    expect(() => withMovedKey(keyed, keyed.keys[0]!, 40)).toThrow(EditRefused);
    const left = keyed.keys.reduce<Keyed | undefined>(
      (one, key) =>
        one &&
        withoutValueKey(
          one,
          one.keys.find(({ at: t }) => t === key.at)!,
        ),
      keyed,
    );
    expect(left).toBeUndefined();
  });
});

// A push-in by the formula: from 1 at source frame 10 to 2 at frame 40, evenly.
describe('keys that stay with the content, and keys that run evenly', () => {
  const content: Keyed = {
    by: 'source',
    keys: [
      { at: 10, value: 1, ease: [...eases.linear] },
      { at: 40, value: 2 },
    ],
  };
  const even: Keyed = {
    by: 'output',
    keys: [
      { at: 10, value: 1, ease: [...eases.linear] },
      { at: 40, value: 2 },
    ],
  };
  const expected = (from: number): number => 1 + Math.min(1, Math.max(0, (from - 10) / 30));

  it.each([
    ['through a ramp and a freeze', map],
    ['turned round', back],
  ])('are as their formulas say %s', (_, one) => {
    for (let t = 0; t < 130; t += 1.7) {
      const moment = momentAt(one, t);
      expect(valueAt(content, moment)).toBeCloseTo(expected(moment.source), 9);
      expect(valueAt(even, moment)).toBeCloseTo(expected(t), 9);
    }
  });

  it('stand where their content is shown, as often as it is', () => {
    expect(outputsOfKey(content, content.keys[0]!, map)).toEqual([expect.closeTo(10, 9)]);
    expect(outputsOfKey(even, even.keys[0]!, back)).toEqual([10]);
    // Inside the freeze: from where it begins.
    const held = momentAt(map, 75).source;
    expect(outputsOfKey(content, { at: held, value: 0 }, map)).toEqual([expect.closeTo(70, 9)]);
    const twice: RetimeMap = { ...map, spans: [constantSpan(1, 50), { ...constantSpan(1, 50), jump: -50 }] };
    expect(outputsOfKey(content, content.keys[0]!, twice)).toEqual([10, 60].map((t) => expect.closeTo(t, 9)));
  });

  it('go along with an edit, or stay', () => {
    const moved = movedKeyed(even, (output) => output + 5);
    expect(moved.keys.map((key) => key.at)).toEqual([15, 45]);
    expect(movedKeyed(content, (output) => output + 5)).toBe(content);
    // What was cut out between two keys leaves them in one place: the later one counts.
    expect(movedKeyed(even, () => 12).keys).toEqual([{ at: 12, value: 2 }]);
  });

  it('turned round with the time, lead back the way they came', () => {
    const eased: Keyed = {
      by: 'output',
      keys: [
        { at: 0, value: 0, ease: [...eases['ease-in']] },
        { at: 40, value: 1, ease: [...eases.linear] },
        { at: 60, value: 3 },
      ],
    };
    const round = movedKeyed(eased, (output) => 100 - output);
    for (let t = 0; t <= 100; t += 3) expect(valueAt(round, at(t))).toBeCloseTo(valueAt(eased, at(100 - t)), 9);
  });

  it('are counted the other way at the same moments', () => {
    const other = recounted(content, 'output', map);
    expect(other.keys.map((key) => key.at)).toEqual(
      content.keys.map((key) => expect.closeTo(outputsOfKey(content, key, map)[0]!, 9)),
    );
    const again = recounted(other, 'source', map);
    again.keys.forEach((key, index) => expect(key.at).toBeCloseTo(content.keys[index]!.at, 6));
    expect(recounted(content, 'source', map)).toBe(content);
    const never: Keyed = { by: 'source', keys: [{ at: 190, value: 7 }] };
    expect(recounted(never, 'output', map).keys).toEqual([{ at: 0, value: 7 }]);
  });
});
