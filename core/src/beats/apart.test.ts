import { apart, strongest } from './apart';

const row = [
  [0, 0.2],
  [1, 0.9],
  [1.5, 1],
  [3, 0.1],
  [3.5, 0.05],
].map(([at, strength]) => ({ at: at!, strength: strength! }));
const places = (all: typeof row): number[] => all.map(({ at }) => at);

it('of near ones the strongest stays; those a gap apart both stay', () => {
  expect(places(apart(row, ({ at }) => at, 1))).toEqual([0, 1.5, 3]);
  expect(places(apart(row, ({ at }) => at, 0.5))).toEqual(places(row));
  expect(places(apart(row, ({ at }) => at, 100))).toEqual([1.5]);
  expect(apart([], () => 0, 1)).toEqual([]);
});

it('the strongest keep their order', () => {
  expect(places(strongest(row, 2))).toEqual([1, 1.5]);
  expect(places(strongest(row, 9))).toEqual(places(row));
});
