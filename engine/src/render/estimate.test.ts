import { placesOf } from './estimate';

it('of a short film all pictures are made, of a long one some at its beginning, middle and end', () => {
  expect(placesOf(1)).toEqual([{ from: 0, to: 1 }]);
  expect(placesOf(24)).toEqual([{ from: 0, to: 24 }]);
  expect(placesOf(1000)).toEqual([
    { from: 100, to: 148 },
    { from: 500, to: 548 },
    { from: 900, to: 948 },
  ]);
  for (const count of [143, 144, 145, 190, 479, 480, 481]) {
    const places = placesOf(count);
    expect(places.every(({ from, to }) => from >= 0 && to <= count && to > from)).toBe(true);
  }
});
