import { evenGain } from './even-light';

/** Lights around each frame of a row, as they are looked at. */
const around = (row: readonly number[], at: number): (number | undefined)[] =>
  Array.from({ length: 17 }, (_, place) => row[at + place - 8]);
const evened = (row: readonly number[]): number[] => row.map((light, at) => light * evenGain(around(row, at)));
const spread = (row: readonly number[]): number => {
  const mean = row.reduce((sum, light) => sum + light, 0) / row.length;
  return Math.sqrt(row.reduce((sum, light) => sum + (light - mean) ** 2, 0) / row.length) / mean;
};

it('light that flickers is evened out: drawn from frame to frame, and in step with the mains', () => {
  let state = 9;
  const drawn = Array.from({ length: 200 }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return 0.3 * (0.9 + (0.2 * state) / 2 ** 32);
  });
  const inner = (row: readonly number[]): number[] => row.slice(8, -8);
  expect(spread(inner(evened(drawn)))).toBeLessThan(spread(inner(drawn)) / 2.5);
  // 100 Hz of lamps on mains of 50 Hz seen 29.97 times a second: common practice calls for 1/50 or 1/100 s.
  const mains = Array.from(
    { length: 200 },
    (_, frame) => 0.3 * (1 + 0.1 * Math.sin((2 * Math.PI * frame * 100) / 29.97)),
  );
  expect(spread(inner(evened(mains)))).toBeLessThan(spread(inner(mains)) / 5);
});

it('light that really changes passes: what rises evenly stays as it is, to its ends', () => {
  const rising = Array.from({ length: 60 }, (_, frame) => 0.2 + 0.01 * frame);
  evened(rising).forEach((light, frame) => expect(light).toBeCloseTo(rising[frame]!, 9));
});

it('is made at most so many times more or less, and black stays black', () => {
  const flash = Array.from({ length: 30 }, (_, frame) => (frame === 15 ? 1 : 0.01));
  expect(evenGain(around(flash, 15))).toBeCloseTo(1 / 1.8, 9);
  expect(evenGain(around(flash, 16))).toBe(1.8);
  expect(evenGain(around(Array<number>(30).fill(0), 15))).toBe(1);
  expect(evenGain(around([0.4], 0))).toBe(1);
});
