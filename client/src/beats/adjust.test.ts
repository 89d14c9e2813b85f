import { adjusted, type Adjustment } from './adjust';

const change: Adjustment = { what: 'nth', n: 2, first: 1, gap: 250, by: 0 };
const moments = [0.5, 1, 1.5, 2].map((seconds, i) => ({ marker: `m${i}`, seconds }));
const names = (made: { marker: string; seconds: number; isNew?: boolean }[]): string =>
  made.map(({ marker, seconds, isNew }) => `${marker}${isNew ? '+' : ''}@${seconds}`).join(' ');

it('thins, doubles and moves, and each marker stays itself', () => {
  expect(names(adjusted(moments, change))).toBe('m0@0.5 m2@1.5');
  expect(names(adjusted(moments, { ...change, first: 2 }))).toBe('m1@1 m3@2');
  expect(names(adjusted(moments, { ...change, what: 'double' }))).toBe(
    'm0@0.5 m0+@0.75 m1@1 m1+@1.25 m2@1.5 m2+@1.75 m3@2',
  );
  expect(names(adjusted(moments, { ...change, what: 'gap', gap: 900 }))).toBe('m0@0.5 m2@1.5');
  expect(names(adjusted(moments, { ...change, what: 'half' }))).toBe('m0@0.75 m1@1.25 m2@1.75 m3@2.25');
  expect(names(adjusted(moments, { ...change, what: 'nudge', by: -750 }))).toBe('m1@0.25 m2@0.75 m3@1.25');
});
