import type { ProjectDocument, Span } from '@hastig/contract';
import {
  addTrack,
  checkFilm,
  constantSpan,
  exposureList,
  filmRemedy,
  mapOf,
  moveClips,
  plainPicture,
  rampSpan,
  SEQUENCE,
  setPicture,
  trimClip,
  withTiming,
  type Finding,
} from '..';
import { clipOf, rowOf, seen } from '../../test/projects';

const found = (project: ProjectDocument): Finding[] => [...checkFilm(project)].flat();
const kinds = (project: ProjectDocument): string[] => found(project).map(({ kind }) => kind);
const timed = (project: ProjectDocument, start: number, ...spans: Span[]): ProjectDocument =>
  withTiming(project, 'c0', { ...mapOf(project, clipOf(project, 'c0')), start, spans });
/** The same after the remedy for what was found first. */
const mended = (project: ProjectDocument): ProjectDocument => filmRemedy(project, found(project)[0]!)!.apply(project);
/** A clip, five frames of nothing, and another. */
const apart = moveClips(rowOf(10, 10), ['c1'], 'picture-1', 15, 'leave');

describe('a film before it goes out', () => {
  it('is clean where everything is as it was meant', () => {
    expect(found(rowOf(20, 20))).toEqual([]);
    // A freeze and a reverse that were asked for are no faults.
    expect(found(timed(rowOf(60), 59, constantSpan(-1, 30), constantSpan(0, 40)))).toEqual([]);
    expect(found(rowOf())).toEqual([]);
  });

  it('has a gap, which is closed on all tracks unless a clip lies there', () => {
    expect(found(apart)).toEqual([{ kind: 'gap', from: 10, to: 15, amount: 5 }]);
    expect(seen(mended(apart), 9, 10)).toEqual(seen(rowOf(10, 10), 9, 10));
    expect(found(mended(apart))).toEqual([]);
    const both = addTrack(rowOf(10, 10, 3), SEQUENCE, 'sound', 'below');
    const laid = moveClips(moveClips(both, ['c1'], 'picture-1', 40, 'leave'), ['c2'], 'picture-1', 12, 'leave');
    expect(found(laid).map(({ kind, from, to }) => [kind, from, to])).toEqual([
      ['gap', 10, 12],
      ['gap', 15, 40],
    ]);
    expect(() => filmRemedy(laid, { kind: 'gap', from: 10, to: 14, amount: 4 })!.apply(laid)).toThrow(/lies there/);
  });

  it('has a clip that is not seen', () => {
    expect(kinds(setPicture(rowOf(20), ['c0'], { ...plainPicture, opacity: 0 }))).toEqual(['unseen']);
  });

  it.each([
    ['out-of-source', timed(rowOf(20), 10, constantSpan(1, 20))],
    ['backwards', timed(rowOf(60), 5, { of: 'speed', frames: 20, x: [1 / 3, 2 / 3], y: [1, -2, -2, 1] })],
    ['below-floor', timed(rowOf(60), 0, constantSpan(0.25, 20))],
    ['short-ramp', timed(rowOf(60), 0, constantSpan(1, 9), rampSpan(1, 2, 1), constantSpan(2, 9))],
  ] as const)('has a clip %s, and one tap mends it', (kind, project) => {
    const [first] = found(project);
    expect(first).toMatchObject({ kind, clipId: 'c0' });
    expect(kinds(mended(project))).not.toContain(kind);
  });

  it('is fast for more than a second, for which there is no remedy but the editor’s', () => {
    const fast = timed(rowOf(300), 0, constantSpan(4, 40));
    const [first] = found(fast);
    expect(first).toMatchObject({ kind: 'fast-forward', from: 0, to: 40 });
    expect(filmRemedy(fast, first!)).toBeUndefined();
  });

  it('stands still though nobody froze it: where a speed that changes comes near to nothing', () => {
    const still = timed(rowOf(60), 0, { of: 'speed', frames: 60, x: [1 / 3, 2 / 3], y: [1, 0, 0, 0] });
    const [first] = found(still);
    expect(first!.kind).toBe('standstill');
    expect(first!.to - first!.from).toBeGreaterThanOrEqual(15);
  });

  it('is not told of slow parts whose pictures are made, nor of what is trimmed away', () => {
    const slow = timed(rowOf(60), 0, constantSpan(0.25, 20));
    const made = exposureList.set(slow, { clips: ['c0'] }, () => [{ id: 'e', slow: 'blended' }]);
    expect(found(made)).toEqual([]);
    expect(found(exposureList.set(slow, 'film', () => [{ id: 'f', slow: 'blended' }]))).toEqual([]);
    const short = timed(rowOf(60), 0, constantSpan(1, 30), constantSpan(0.25, 8));
    expect(kinds(short)).toEqual(['below-floor']);
    expect(kinds(trimClip(short, 'c0', 'end', -8, 'close'))).toEqual([]);
  });

  it('of a thousand clips is gone through in pieces, one a clip', () => {
    const long = rowOf(...Array.from({ length: 1000 }, () => 20));
    expect([...checkFilm(long)]).toHaveLength(1001);
  });
});
