import { samePictures } from './location';

jest.mock('mediabunny', () => ({}));
jest.mock('@hastig/probe', () => ({}));

const file = { url: 'a', bytes: 1 };
const top = { use: 'both', first: 'top' } as const;

it('tells whether two locations give the same pictures: a copy makes no difference, fields do', () => {
  const copy = { url: 'copy', pieces: [{ piece: 0, bytes: 9 }] };
  expect(samePictures({ ...file, fields: top }, { ...file, fields: { ...top }, copy })).toBe(true);
  expect(samePictures(file, { ...file, url: 'b' })).toBe(false);
  expect(samePictures({ ...file, fields: top }, { ...file, fields: { ...top, first: 'bottom' } })).toBe(false);
  expect(samePictures(file, undefined)).toBe(false);
});
