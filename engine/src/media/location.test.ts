import { samePictures } from './location';

jest.mock('mediabunny', () => ({}));
jest.mock('@hastig/probe', () => ({}));

const file = { url: 'a', bytes: 1 };
const top = { use: 'both', first: 'top' } as const;

it('tells whether two locations give the same pictures: a proxy makes no difference, fields do', () => {
  const proxy = { url: 'proxy', pieces: [{ piece: 0, bytes: 9 }] };
  expect(samePictures({ ...file, fields: top }, { ...file, fields: { ...top }, proxy })).toBe(true);
  expect(samePictures(file, { ...file, url: 'b' })).toBe(false);
  expect(samePictures({ ...file, fields: top }, { ...file, fields: { ...top, first: 'bottom' } })).toBe(false);
  expect(samePictures(file, undefined)).toBe(false);
});
