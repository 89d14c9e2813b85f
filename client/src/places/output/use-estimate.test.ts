import { aboutSeconds } from './use-estimate';

it('a time that is not known exactly is told as exactly as it is', () => {
  expect([0.4, 4.9, 7, 38, 89, 91, 700, 5399, 5401, 36_000].map(aboutSeconds)).toEqual([
    'less than 5 s',
    'less than 5 s',
    'about 5 s',
    'about 40 s',
    'about 90 s',
    'about 2 min',
    'about 12 min',
    'about 90 min',
    'about 1.5 h',
    'about 10.0 h',
  ]);
});
