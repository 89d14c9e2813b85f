import { OffsetWatch } from './sound-offset';

it('tells the middle and the furthest of all pictures since play began', () => {
  const watch = new OffsetWatch();
  expect(watch.figures()).toBeUndefined();
  [4, 6, 5, -12, 7].forEach((by, i) => watch.saw(1000 * i + by, 1000 * i));
  expect(watch.figures()).toEqual({ median: 5, worst: -12, pictures: 5 });
  watch.begin();
  expect(watch.figures()).toBeUndefined();
});
