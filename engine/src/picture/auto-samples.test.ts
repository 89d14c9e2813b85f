import { enoughParts, farMoved } from './auto-samples';

const moments = (from: number, to: number, count = 64) =>
  Array.from({ length: count }, (_, n) => {
    const place = from + ((n + 0.5) / count) * (to - from);
    return { frame: Math.floor(place), share: place % 1, weight: 1 / count };
  });
const sum = (parts: readonly { weight: number }[]): number => parts.reduce((all, { weight }) => all + weight, 0);

it('as many moments are looked at as what moves asks for, 1.5 pixels from one to the next', () => {
  const parts = moments(10, 11);
  const counts = [0, 1, 3, 12, 30, 400].map((moved) => enoughParts(parts, moved).length);
  expect(counts).toEqual([2, 2, 2, 8, 20, 64]);
  for (const moved of [0, 12, 30]) expect(sum(enoughParts(parts, moved))).toBeCloseTo(1, 9);
  // Half a source frame: half the way.
  expect(enoughParts(moments(10, 10.5), 30)).toHaveLength(10);
});

it('where real frames pass that are near enough to each other, none are made', () => {
  const parts = enoughParts(moments(10, 30), 1);
  expect(parts.every((part) => part.share === undefined)).toBe(true);
  expect(parts.map(({ frame }) => frame)).toEqual(Array.from({ length: 21 }, (_, n) => 10 + n));
  expect(sum(parts)).toBeCloseTo(1, 9);
  expect(enoughParts(moments(10, 30), 3).some((part) => part.share !== undefined)).toBe(true);
});

it('how far things move is told by what is surely found, but for the farthest little', () => {
  const arrow = (toX: number, sure = true) => ({ x: 0.5, y: 0.5, toX: 0.5 + toX / 1280, toY: 0.5, sure });
  const arrows = [
    ...Array<number>(98)
      .fill(4)
      .map((x) => arrow(x)),
    arrow(900),
    arrow(30),
    arrow(500, false),
  ];
  expect(farMoved(arrows, 1280, 720)).toBeCloseTo(4, 6);
  expect(farMoved([], 1280, 720)).toBe(0);
});
