import type { Flash, Trail } from '@hastig/contract';
import {
  addFlashes,
  effectList,
  filmCuts,
  mapOf,
  moveEffect,
  paceClip,
  reverseRange,
  splitClip,
  thinFlashes,
  trimClip,
  ungroup,
  withSequenceRate,
  withTiming,
  type FlashKind,
} from '../..';
import { clipOf, group, rowOf } from '../../../test/projects';

const clips = { clips: ['c0'] };
const trail: Trail = {
  ...{ id: 't', kind: 'trail', apart: 1, by: 'frames', copies: 5, decay: 0.8, combine: 'lightest' },
};
const kind: FlashKind = { way: 'light', strength: 3, colour: '#ffffff', curve: 'linear' };
const flashes = (project: ReturnType<typeof rowOf>): [from: number, to: number, peak: number][] =>
  effectList.of(project, 'film').map((one) => [one.over!.from, one.over!.to, (one as Flash).peak]);
const ids = (): (() => string) => {
  let last = 0;
  return () => `f${++last}`;
};
const long = { length: 8, before: 3 };

describe('flashes of the film', () => {
  it('are put on all cuts or marks at once, each a thing of its own', () => {
    const project = rowOf(20, 30, 10);
    expect(filmCuts(project)).toEqual([20, 50]);
    const lit = addFlashes(project, 'film', filmCuts(project), kind, long, ids());
    expect(flashes(lit)).toEqual([
      [17, 25, 3],
      [47, 55, 3],
    ]);
    // Put on once more they take the place of those that were there.
    expect(flashes(addFlashes(lit, 'film', [50], kind, { length: 6, before: 3 }, () => 'x'))).toEqual([
      [17, 25, 3],
      [47, 53, 3],
    ]);
    // At the film's beginning there is nothing before it.
    expect(flashes(addFlashes(project, 'film', [1], kind, long, ids()))).toEqual([[0, 6, 1]]);
    expect(() => addFlashes(project, 'film', [], kind, long, ids())).toThrow('There is no cut or mark here.');
    const moved = moveEffect(moveEffect(lit, 'film', 'f1', -4), 'film', 'f2', 2);
    expect(flashes(moved)).toEqual([
      [13, 21, 3],
      [49, 57, 3],
    ]);
    expect(flashes(moveEffect(lit, 'film', 'f1', -100))[0]).toEqual([0, 8, 3]);
  });

  it('are thinned out in the order of time, and leave other effects alone', () => {
    const project = rowOf(100);
    const many = effectList.put(addFlashes(project, 'film', [50, 10, 30, 70], kind, long, ids()), 'film', trail);
    const thin = thinFlashes(many, 'film', 2);
    expect(
      effectList
        .of(thin, 'film')
        .map(({ over }) => over?.from)
        .sort(),
    ).toEqual([47, 7, undefined]);
    expect(() => thinFlashes(effectList.put(project, 'film', trail), 'film', 2)).toThrow(
      'There are no flashes to thin out.',
    );
  });

  it('stay at their moments at another rate of the film', () => {
    const half = withSequenceRate(addFlashes(rowOf(100), 'film', [50], kind, long, ids()), { num: 15, den: 1 });
    expect(flashes(half)).toEqual([[23.5, 27.5, 1.5]]);
  });
});

describe('effects of a clip', () => {
  const stretched: Trail = { ...trail, over: { by: 'output', from: 10, to: 20 } };
  const inSource: Trail = { ...trail, id: 'u', over: { by: 'source', from: 10, to: 20 } };
  const set = effectList.set(rowOf(60, 30), clips, () => [stretched, inSource]);

  it('are refused where they make no sense', () => {
    const wrong = (one: Trail) => () => effectList.put(set, clips, one);
    expect(wrong({ ...trail, apart: 0 })).toThrow('Copies must lie some time apart.');
    expect(wrong({ ...trail, over: { by: 'output', from: 3, to: 3 } })).toThrow('The end must come after the start.');
  });

  it('are ordered, and leave no setting behind', () => {
    expect(effectList.of(effectList.move(set, clips, 't', 1), 'c0').map(({ id }) => id)).toEqual(['u', 't']);
    const none = ['t', 'u'].reduce((project, id) => effectList.remove(project, clips, id), set);
    expect('effects' in clipOf(none, 'c0')).toBe(false);
  });

  it('survive a split, a trim, a reverse, a pace and a group', () => {
    const split = splitClip(set, 'c0', 15, 'later');
    for (const id of ['c0', 'later']) expect(effectList.of(split, id)).toEqual([stretched, inSource]);
    const slower = paceClip(set, 'c0', 120);
    expect(effectList.of(slower, 'c0')).toEqual([{ ...stretched, over: { by: 'output', from: 20, to: 40 } }, inSource]);
    const trimmed = trimClip(set, 'c0', 'start', 5, 'close');
    expect(effectList.of(trimmed, 'c0')).toEqual([stretched, inSource]);
    const map = mapOf(set, clipOf(set, 'c0'));
    const back = withTiming(set, 'c0', reverseRange(map, { from: 0, to: 60 }));
    expect(effectList.of(back, 'c0')).toHaveLength(2);
    expect(effectList.of(group(set, ['c0', 'c1']), 'c0')).toEqual([stretched, inSource]);
    const grouped = effectList.set(group(set, ['c0', 'c1']), { clips: ['c-g'] }, () => [trail]);
    expect(() => ungroup(grouped, 'c-g', () => 'n')).toThrow('This group has effects of its own.');
  });
});
