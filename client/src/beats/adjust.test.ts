import { adjusted, type Adjustment } from './adjust';

const change: Adjustment = { what: 'nth', n: 2, first: 1, gap: 250, by: 0, bar: 3, downbeat: 2, kind: 'hit' };
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

it('counts bars anew from the first downbeat on, and makes markers of another kind', () => {
  const kinds = (of: Adjustment): string[] => adjusted(moments, of).map(({ kind }) => kind ?? 'as it was');
  expect(kinds({ ...change, what: 'bars' })).toEqual(['beat', 'downbeat', 'beat', 'beat']);
  // A bar that began before the first downbeat has its own, where it is whole.
  expect(kinds({ ...change, what: 'bars', bar: 2, downbeat: 3 })).toEqual(['downbeat', 'beat', 'downbeat', 'beat']);
  expect(kinds({ ...change, what: 'kind' })).toEqual(Array(4).fill('hit'));
  expect(kinds(change)).toEqual(['as it was', 'as it was']);
});
