import type { Effect } from '@hastig/contract';
import { clipOf, group, rowOf } from '../../test/projects';
import { effectList, plainPicture, programOf, SEQUENCE, setPicture, moveMap, steadyPath } from '..';
import { enlargements } from './enlargements';

// Sources of 64 by 36 in a frame of the same shape.
const project = { ...rowOf(20, 30), sequence: { ...rowOf(20, 30).sequence, width: 640, height: 360 } };
const timesOf = (made: typeof project): number[] => {
  const all = enlargements(programOf(made, SEQUENCE));
  return ['s0', 's1'].map((id) => Math.round(all.of(id) * 1000) / 1000);
};

it('is once where pictures lie as they do by themselves, or smaller', () => {
  expect(timesOf(project)).toEqual([1, 1]);
  expect(timesOf(setPicture(project, ['c0'], { ...plainPicture, scale: 0.4 }))).toEqual([1, 1]);
});

it('is as often as a clip enlarges its picture, whichever way it is turned', () => {
  const larger = setPicture(project, ['c0'], { ...plainPicture, scale: 3, turn: 30 });
  expect(timesOf(larger)).toEqual([3, 1]);
});

it('counts a group’s with what lies in it', () => {
  const inside = setPicture(project, ['c0'], { ...plainPicture, scale: 2 });
  const grouped = group(inside, ['c0', 'c1']);
  const larger = setPicture(grouped, [clipOf(grouped, 'c-g').id], { ...plainPicture, scale: 1.5 });
  expect(timesOf(larger)).toEqual([3, 1.5]);
});

it('counts what a reframe and a steadied path enlarge', () => {
  const reframe = {
    ...{ id: 'r', kind: 'reframe', shape: 16 / 9, ease: [0, 0, 1, 1] },
    ...{ from: { x: 0.5, y: 0.5, size: 1 }, to: { x: 0.5, y: 0.5, size: 0.25 } },
  } satisfies Effect;
  expect(timesOf(effectList.set(project, { clips: ['c0'] }, () => [reframe]))).toEqual([4, 1]);
  expect(timesOf(effectList.set(project, 'film', () => [reframe]))).toEqual([4, 4]);
  const program = programOf(project, SEQUENCE);
  const tracks = program.tracks.map((track) => ({
    ...track,
    items: track.items.map((item) => (item.clipId === 'c1' ? { ...item, steady: 'path' } : item)),
  }));
  const size = { width: 64, height: 36 };
  const maps = [moveMap({ x: 8, y: 0, turn: 0, size: 1 }, size)];
  const steadies = { path: steadyPath(maps, size, 'scale', { key: 'path' }) };
  const all = enlargements({ ...program, tracks, steadies });
  expect(all.of('s0')).toBe(1);
  expect(all.of('s1')).toBeCloseTo(32 / 24, 9);
});
