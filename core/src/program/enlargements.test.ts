import { clipOf, group, rowOf } from '../../test/projects';
import { plainPicture, programOf, SEQUENCE, setPicture } from '..';
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
