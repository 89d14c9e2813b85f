import type { Marker } from '@hastig/contract';
import { markersInSight } from './markers-in-sight';

const marker = (at: number): Marker => ({ id: `m${at}`, at, name: '', tone: 'oak' });
const view = { from: 0, to: 1000, width: 1000 };

it('shows each marker that can be told apart, and how many are with one that cannot', () => {
  const seen = markersInSight([10, 100, 104, 107, 400, 1200].map(marker), view);
  expect(seen.map(({ marker: { at }, others, to }) => [at, others, to])).toEqual([
    [10, 0, 10],
    [100, 2, 107],
    [400, 0, 400],
  ]);
});

it('shows no more signs than there is room for, however many markers there are', () => {
  const many = Array.from({ length: 20_000 }, (_, n) => marker(n));
  const seen = markersInSight(many, { from: 0, to: 20_000, width: 390 });
  expect(seen.length).toBeLessThanOrEqual(390 / 10 + 1);
  expect(seen.reduce((sum, { others }) => sum + 1 + others, 0)).toBe(20_000);
});

it('shows two at one frame as two: closer they are no farther apart', () => {
  expect(markersInSight([marker(5), { ...marker(5), id: 'other' }], view).map(({ others }) => others)).toEqual([0, 0]);
});

it('takes them in the order of their frames, however they lie', () => {
  expect(markersInSight([300, 20].map(marker), view).map(({ marker: { at } }) => at)).toEqual([20, 300]);
});
