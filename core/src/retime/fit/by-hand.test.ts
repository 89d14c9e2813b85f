import { realTime } from '../../../test/maps';
import { asDriven, compile, mapLength, positionAt, speedAt, withTake, type Take } from '../..';

const map = realTime(300);

/** Up to twice real time within two seconds, held, and down to a quarter, with a tremble. */
const take: Take = {
  from: 30,
  speeds: Array.from({ length: 150 }, (_, i) => {
    const hand = i < 48 ? 1 + i / 48 : i < 96 ? 2 : 2 - (1.75 * (i - 96)) / 54;
    return hand + 0.01 * Math.sin(i * 2.3);
  }),
};

it('a take comes back within its tolerance, with the few keys at which the hand turned', () => {
  const made = withTake(map, take, { tolerance: 0.05 });
  take.speeds.forEach((speed, i) => expect(Math.abs(speedAt(made, 30 + i) - speed)).toBeLessThanOrEqual(0.05 + 1e-9));
  const keys = Array.from(compile(made).times).filter((at) => at >= 30 && at <= 180);
  expect(keys.length).toBeLessThanOrEqual(5);
  expect(mapLength(made)).toBeCloseTo(300, 9);
  expect(positionAt(made, 30)).toBeCloseTo(30, 9);
});

it('on wish its keys lie on markers nearby', () => {
  const made = withTake(map, take, { tolerance: 0.05, magnets: [79.25, 125.5] });
  const times = Array.from(compile(made).times);
  for (const marker of [79.25, 125.5]) expect(times.some((at) => Math.abs(at - marker) < 1e-9)).toBe(true);
});

it('while it is driven each frame has the speed of its moment, and what is to come the one of now', () => {
  const driven = asDriven(map, { from: 30, speeds: [1, 1, 2, 2, 0.5] }, 3);
  expect([29, 30, 31, 32, 33, 34, 35, 200].map((at) => speedAt(driven, at))).toEqual([1, 1, 1, 2, 2, 0.5, 3, 3]);
  expect(mapLength(driven)).toBeCloseTo(300, 9);
  expect(asDriven(map, { from: 400, speeds: [1] }, 1)).toBe(map);
});

it('ends where the clip ends', () => {
  const long = withTake(map, { from: 290, speeds: Array.from({ length: 40 }, () => 2) }, { tolerance: 0.05 });
  expect(mapLength(long)).toBeCloseTo(300, 9);
  expect(positionAt(long, 300)).toBeCloseTo(310, 9);
});
