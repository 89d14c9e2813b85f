import { shuttleSpeed } from './shuttle';

const presses = (...ways: (1 | -1 | 0)[]): number[] => {
  let now = 0;
  return ways.map((way) => (now = shuttleSpeed(now, way)));
};

it('goes faster with each press, and slower and back with the other key', () => {
  expect(presses(1, 1, 1, 1, 1)).toEqual([1, 2, 4, 8, 8]);
  expect(presses(-1, -1, 0)).toEqual([-1, -2, 0]);
  expect(presses(1, 1, -1, -1, -1, -1)).toEqual([1, 2, 1, 0.5, -1, -2]);
});
