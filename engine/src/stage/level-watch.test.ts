import { LevelWatch } from './level-watch';

const piece = (left: number, right: number): Float32Array[] =>
  [left, right].map((value) => Float32Array.from({ length: 1000 }, (_, n) => (n === 500 ? -value : 0)));

it('knows how loud it is at a moment, to a fiftieth of a second', () => {
  const watch = new LevelWatch();
  watch.add(2, piece(0.5, 0.25), 10_000);
  expect(watch.at(2.05).map((value) => Math.round(value * 100))).toEqual([50, 25]);
  expect(watch.at(2.03)).toEqual([0, 0]);
  expect(watch.at(3)).toEqual([0, 0]);
});

it('forgets what is not to be heard any more, and what was heard long ago', () => {
  const watch = new LevelWatch();
  watch.add(2, piece(0.5, 0.5), 10_000);
  watch.cut(2.04);
  expect(watch.at(2.05)).toEqual([0, 0]);
  watch.add(2, piece(0.5, 0.5), 10_000);
  watch.add(9, piece(0.1, 0.1), 10_000);
  expect(watch.at(2.05)).toEqual([0, 0]);
  expect(watch.at(9.05)[0]).toBeCloseTo(0.1);
});

it('tells one channel on both sides', () => {
  const watch = new LevelWatch();
  watch.add(0, [piece(0.3, 0)[0]!], 10_000);
  expect(watch.at(0.05)[1]).toBeCloseTo(0.3);
});
