import { copyName } from './copy-name';

const named = (...names: string[]): { name: string }[] => names.map((name) => ({ name }));

it.each([
  ['Marble film', ['Marble film'], 'Marble film (2)'],
  ['Marble film', ['Marble film', 'Marble film (2)'], 'Marble film (3)'],
  ['Marble film (2)', ['Marble film (2)'], 'Marble film (3)'],
  ['Take (b)', ['Take (b)'], 'Take (b) (2)'],
])('a copy of %s beside %j is called %s', (name, taken, expected) => {
  expect(copyName(name, named(...taken))).toBe(expected);
});

it('stays within the length of a name', () => {
  const name = copyName('n'.repeat(200), named('n'.repeat(200)));
  expect(name).toHaveLength(200);
  expect(name.endsWith(' (2)')).toBe(true);
});
