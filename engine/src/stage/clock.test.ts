import { Throughput } from '../render/throughput';
import { clockPosition } from './clock';

it('the clock counts output frames from its moment', () => {
  const clock = { at: 1000, frame: 12, rate: 24 };
  expect(clockPosition(clock, 1000)).toBe(12);
  expect(clockPosition(clock, 3000)).toBe(60);
  expect(clockPosition(clock, 500)).toBeLessThan(12);
});

it('the pace is taken from the last seconds only', () => {
  const pace = new Throughput();
  expect(pace.mark(0, 0)).toBe(0);
  expect(pace.mark(10, 1000)).toBe(10);
  for (let second = 2; second <= 10; second++) pace.mark(10 + (second - 1) * 50, second * 1000);
  expect(pace.mark(510, 11_000)).toBeCloseTo(50, 6);
});
