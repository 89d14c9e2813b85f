import fc from 'fast-check';
import { fitKeys, missOf, simplified } from './fit-keys';
import { spansOfSpeeds } from './speeds';

/** Numbers that look random and are the same every time, −1 to 1 (Park and Miller, 1988). */
function noise(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 1_073_741_823.5 - 1;
}

/** A hand on a throttle: it moves, rests, turns, and trembles. */
function hand(frames: number, tremble: number, seed: number): Float64Array {
  const random = noise(seed);
  const turns = Array.from({ length: 9 }, (_, i) => ({ at: (i * frames) / 8, value: 1 + 0.9 * random() }));
  return Float64Array.from({ length: frames + 1 }, (_, frame) => {
    const index = Math.min(7, Math.floor((frame * 8) / frames));
    const [a, b] = [turns[index]!, turns[index + 1]!];
    return a.value + ((b.value - a.value) * (frame - a.at)) / (b.at - a.at) + tremble * random();
  });
}

it.each([1, 7, 42, 99])(
  'a throttle with a tremble comes back within its tolerance, with no more keys than the line simplified',
  (seed) => {
    const speeds = hand(240, 0.02, seed);
    for (const tolerance of [0.03, 0.05, 0.1]) {
      const keys = fitKeys(speeds, tolerance);
      expect(missOf(speeds, keys)).toBeLessThanOrEqual(tolerance);
      expect(keys.length).toBeLessThanOrEqual(simplified(speeds, 0, 240, tolerance).length);
    }
  },
);

it('what was drawn with straight lines is found again: its nine turns', () => {
  const keys = fitKeys(hand(240, 0, 5), 1e-6);
  expect(keys.map(({ at }) => at)).toEqual([0, 30, 60, 90, 120, 150, 180, 210, 240]);
});

it('a tremble alone is one level', () => {
  const random = noise(3);
  const keys = fitKeys(
    Float64Array.from({ length: 100 }, () => 1 + 0.01 * random()),
    0.03,
  );
  expect(keys).toHaveLength(2);
  for (const { value } of keys) expect(Math.abs(value - 1)).toBeLessThan(0.01);
});

it('any row is met within any tolerance', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -8, max: 8, noNaN: true }), { minLength: 1, maxLength: 60 }),
      fc.double({ min: 0.001, max: 3, noNaN: true }),
      (row, tolerance) => {
        const keys = fitKeys(row, tolerance);
        expect(missOf(row, keys)).toBeLessThanOrEqual(tolerance + 1e-9);
        expect(keys[0]!.at).toBe(0);
        expect(keys.at(-1)!.at).toBe(row.length - 1);
      },
    ),
  );
});

it('a long row is met everywhere, where it is cut to be looked at too', () => {
  const random = noise(11);
  let level = 0;
  const row = Float64Array.from({ length: 9000 }, (_, at) => (level = 0.9 * level + 0.2 * random()) + (at % 15) / 30);
  const keys = fitKeys(row, 0.05);
  expect(missOf(row, keys)).toBeLessThanOrEqual(0.05 + 1e-9);
  expect(keys.length).toBeLessThan(simplified(row, 0, row.length - 1, 0.05).length);
});

it('speeds become spans as long as they lasted', () => {
  const spans = spansOfSpeeds([1, 1, 1, 2, 3, 3], 0.01);
  expect(spans.map(({ frames, y }) => [frames, y[0], y[3]].map((value) => Math.round(value * 1000) / 1000))).toEqual([
    [2, 1, 1],
    [2, 1, 3],
    [1, 3, 3],
  ]);
  expect(fitKeys([], 1)).toEqual([]);
});
