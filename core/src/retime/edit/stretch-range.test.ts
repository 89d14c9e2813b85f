import fc from 'fast-check';
import { compile, constantSpan, EditRefused, rangeSpeed, pinsOf, positionAt, rampSpan, stretchRange } from '../..';
import { anyMap, mapOf } from '../../../test/maps';

const map = mapOf([constantSpan(1, 60), rampSpan(1, 0.5, 40), constantSpan(0.5, 40)], { sourceFrames: 400 });

it('stretches what lies behind a moment, and leaves what lies before as it is', () => {
  const slow = stretchRange(map, { from: 50, to: 140 }, 180);
  expect(compile(slow).length).toBeCloseTo(230, 9);
  for (const at of [0, 20, 49.5]) expect(positionAt(slow, at)).toBeCloseTo(positionAt(map, at), 9);
  for (const at of [50, 70, 100, 140]) expect(positionAt(slow, 50 + 2 * (at - 50))).toBeCloseTo(positionAt(map, at), 6);
});

it('takes pins along', () => {
  const pins = [
    { output: 30, source: 30 },
    { output: 120, source: positionAt(map, 120) },
  ];
  const slow = stretchRange({ ...map, pins }, { from: 60, to: 140 }, 160);
  expect(pinsOf(slow).map(({ output }) => output)).toEqual([30, 180]);
});

it('refuses what cannot be', () => {
  expect(() => stretchRange(map, { from: 50, to: 140 }, 0)).toThrow(EditRefused);
  expect(() => stretchRange(map, { from: 50, to: 50 }, 10)).toThrow(EditRefused);
  const locked = { ...map, spans: map.spans.map((span) => ({ ...span, locked: true })) };
  expect(() => stretchRange(locked, { from: 50, to: 140 }, 10)).toThrow(EditRefused);
});

it('has a mean speed that falls as it gets longer', () => {
  expect(rangeSpeed(map, { from: 0, to: 60 })).toBeCloseTo(1, 9);
  expect(rangeSpeed(stretchRange(map, { from: 0, to: 60 }, 150), { from: 0, to: 150 })).toBeCloseTo(0.4, 9);
});

it('leaves the content of any map where it is in proportion', () => {
  fc.assert(
    fc.property(anyMap(), fc.double({ min: 0.1, max: 5, noNaN: true }), (any, factor) => {
      const { length } = compile(any);
      const longer = stretchRange(any, { from: 0, to: length }, length * factor);
      expect(compile(longer).length).toBeCloseTo(length * factor, 6);
      for (const share of [0.1, 0.5, 0.9]) {
        const [a, b] = [positionAt(any, share * length), positionAt(longer, share * length * factor)];
        // A jump that falls on the very moment may count to either side.
        if (any.spans.every(({ jump }) => !jump)) expect(b).toBeCloseTo(a, 5);
      }
    }),
    { numRuns: 100 },
  );
});
