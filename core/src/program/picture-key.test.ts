import { pictureKey, plainPicture, samePicture, type Lit, type SeenFrame, type SeenPicture } from '..';

const frame = (number: number, more: Partial<SeenFrame> = {}): SeenFrame => ({
  ...{ sourceId: 's', frame: number, clipId: 'c' },
  ...more,
});
const mean = (...parts: [number, number][]) => ({
  parts: parts.map(([number, weight]) => ({ seen: frame(number), weight })),
});
const half = { ...plainPicture, scale: 0.5 };

const brighter: Lit = { times: [2, 2, 2], plus: [0, 0, 0] };

/** Pictures that all show something else. */
const different: SeenPicture[] = [
  [],
  [{ of: frame(1) }],
  [{ of: frame(2) }],
  [{ of: frame(1, { sourceId: 't' }) }],
  [{ of: frame(1, { share: 0, way: 'compensated' }) }],
  [{ of: frame(1, { share: 0.5, way: 'compensated' }) }],
  [{ of: frame(1, { share: 0.5, way: 'blended' }) }],
  [{ of: frame(1, { key: true }) }],
  [{ of: frame(1, { steady: 'path' }) }],
  [{ of: frame(1), settings: half }],
  [{ of: frame(1), settings: { ...half, crop: { ...half.crop, left: 0.1 } } }],
  [{ of: mean([1, 0.5], [2, 0.5]) }],
  [{ of: mean([1, 0.25], [2, 0.75]) }],
  [{ of: { ...mean([1, 0.5], [2, 0.5]), auto: true } }],
  [{ of: { ...mean([1, 0.5], [2, 0.5]), evenLight: 1 } }],
  [{ of: frame(1) }, { of: frame(2) }],
  [{ of: [{ of: frame(1) }, { of: frame(2) }] }],
  [{ of: [{ of: frame(1) }] }, { of: frame(2) }],
  [{ of: { moments: [{ layers: [{ of: frame(1) }], weight: 1 }], combine: 'sum' } }],
  [{ of: { moments: [{ layers: [{ of: frame(1) }], weight: 1 }], combine: 'over' } }],
  [{ of: { moments: [{ layers: [{ of: frame(1) }], weight: 1 }], combine: 'sum', opaque: true } }],
  [{ of: { moments: [{ layers: [{ of: frame(1) }], weight: 1 }], combine: 'sum', lit: brighter } }],
  [{ of: { sum: [{ leaf: frame(1), weight: 1 }], combine: 'sum' } }],
  [{ of: { sum: [{ leaf: frame(1), weight: 1 }], combine: 'sum', lit: brighter } }],
  [{ of: { sum: [{ leaf: frame(1), weight: 1 }], combine: 'lightest' } }],
  [{ of: { sum: [{ leaf: frame(1), weight: 0.5 }], combine: 'lightest' } }],
  [{ of: { sum: [{ leaf: mean([1, 0.5], [2, 0.5]), weight: 1 }], combine: 'sum' } }],
];

it('pictures that show something else have other keys', () => {
  expect(new Set(different.map(pictureKey)).size).toBe(different.length);
  for (const [n, one] of different.entries())
    for (const [m, other] of different.entries()) expect(samePicture(one, other)).toBe(n === m);
});

it('what shows the same has the same key: another clip, settings that change nothing or stand in another order', () => {
  expect(pictureKey([{ of: frame(1, { clipId: 'other' }) }])).toBe(pictureKey([{ of: frame(1) }]));
  expect(pictureKey([{ of: frame(1), settings: plainPicture }])).toBe(pictureKey([{ of: frame(1) }]));
  const turned = Object.fromEntries(Object.entries(half).reverse()) as typeof half;
  expect(pictureKey([{ of: frame(1), settings: turned }])).toBe(pictureKey([{ of: frame(1), settings: half }]));
});
