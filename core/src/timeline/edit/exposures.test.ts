import type { ExposureStep } from '@hastig/contract';
import {
  constantSpan,
  findClip,
  mapOf,
  paceClip,
  withSequenceRate,
  splitClip,
  withBase,
  withTiming,
  exposureList,
} from '../..';
import { clipOf, rowOf } from '../../../test/projects';

const clips = { clips: ['c0'] };
const ids = (project: ReturnType<typeof rowOf>): string[] => exposureList.of(project, 'c0').map(({ id }) => id);
const three = ['a', 'b', 'c'].reduce(
  (project, id) => exposureList.put(project, clips, { id, shutter: 90 }),
  rowOf(60, 30),
);

describe('exposures of a clip', () => {
  it('are added, changed, ordered and removed', () => {
    expect(ids(three)).toEqual(['a', 'b', 'c']);
    expect(ids(exposureList.move(three, clips, 'a', 1))).toEqual(['b', 'a', 'c']);
    expect(ids(exposureList.move(three, clips, 'c', -9))).toEqual(['c', 'a', 'b']);
    expect(ids(exposureList.move(three, clips, 'nobody', 1))).toEqual(['a', 'b', 'c']);
    const changed = exposureList.put(three, clips, { id: 'b', slow: 'blended' });
    expect(exposureList.of(changed, 'c0')[1]).toEqual({ id: 'b', slow: 'blended' });
    const none = ['a', 'b', 'c'].reduce((project, id) => exposureList.remove(project, clips, id), three);
    expect('exposures' in findClip(none, 'c0')!).toBe(false);
  });

  it('are refused where they say nothing, or hold nowhere', () => {
    expect(() => exposureList.put(three, clips, { id: 'x' })).toThrow('Choose what becomes of slow parts');
    const over = { by: 'output', from: 5, to: 5 } as const;
    expect(() => exposureList.put(three, clips, { id: 'x', shutter: 9, over })).toThrow('after the start');
    expect(() => exposureList.put(three, { clips: ['gone'] }, { id: 'x', shutter: 9 })).toThrow('no longer');
  });

  it('go along with the clip: both halves of a split keep them, and its output moves theirs', () => {
    const stretch: ExposureStep[] = [
      { id: 'o', shutter: 180, over: { by: 'output', from: 10, to: 20 } },
      { id: 's', shutter: 90, over: { by: 'source', from: 10, to: 20 } },
    ];
    const project = exposureList.set(rowOf(60), clips, () => stretch);
    const split = splitClip(project, 'c0', 15, 'later');
    expect(exposureList.of(split, 'later')).toEqual(stretch);
    const slower = paceClip(project, 'c0', 120);
    expect(exposureList.of(slower, 'c0')).toEqual([
      { ...stretch[0], over: { by: 'output', from: 20, to: 40 } },
      stretch[1],
    ]);
    // What it held for is gone.
    const cut = withTiming(project, 'c0', { ...mapOf(project, clipOf(project, 'c0')), spans: [constantSpan(1, 8)] });
    expect(exposureList.of(cut, 'c0').every(({ over }) => over!.to > over!.from)).toBe(true);
  });

  it('of the film keep their seconds at another rate', () => {
    const step: ExposureStep = { id: 'f', shutter: 180, over: { by: 'output', from: 30, to: 60 } };
    const project = exposureList.set(rowOf(60), 'film', () => [step]);
    const half = withSequenceRate(project, { num: 15, den: 1 });
    expect(exposureList.of(half, 'film')).toEqual([{ ...step, over: { by: 'output', from: 15, to: 30 } }]);
    expect('exposures' in exposureList.set(project, 'film', () => []).sequence).toBe(false);
  });
});

it('what holds for all of a clip is said in one step, before those for parts', () => {
  const part: ExposureStep = { id: 'p', slow: 'held', over: { by: 'output', from: 1, to: 2 } };
  const one = withBase([part], { shutter: 180 }, 'new');
  expect(one).toEqual([{ id: 'new', shutter: 180 }, part]);
  expect(withBase(one, { slow: 'blended' }, 'never')).toEqual([{ id: 'new', shutter: 180, slow: 'blended' }, part]);
});
