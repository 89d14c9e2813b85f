import { shareOfSpeed, speedOfShare, steppedSpeed } from './throttle';

it('is at a standstill, at real time in the middle, and four times as fast at its end', () => {
  expect([0, 0.25, 0.5, 0.75, 1].map(speedOfShare)).toEqual([0, 0.5, 1, 2, 4]);
  expect([-1, 2].map(speedOfShare)).toEqual([0, 4]);
  for (const share of [0, 0.1, 0.5, 0.6, 1]) expect(shareOfSpeed(speedOfShare(share))).toBeCloseTo(share, 12);
});

it('goes by steps from one end to the other', () => {
  let speed = 0;
  const speeds = Array.from({ length: 20 }, () => (speed = steppedSpeed(speed, 1)));
  expect(speeds[9]).toBe(1);
  expect(speeds[19]).toBe(4);
  expect(steppedSpeed(4, 1)).toBe(4);
  expect(steppedSpeed(0, -1)).toBe(0);
});
