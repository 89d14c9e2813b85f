import {
  comparedProgram,
  constantSpan,
  countProgram,
  enlargements,
  isExposed,
  leavesOf,
  mapProgram,
  newVersion,
  picturePlan,
  programFrames,
  programOf,
  programUpdate,
  sameFootageAt,
  SEQUENCE,
  sideProgram,
  sourcesOf,
  topFrame,
  trimClip,
  updatedProgram,
  versionsIn,
  type Comparing,
  type Program,
} from '..';
import { atSpeed, group, newId, paced, rowOf } from '../../test/projects';

const base = rowOf(60, 60);
const how: Comparing = { way: 'beside', lead: 'a', by: 'output', at: 0.5, alone: 'a' };
const film = (project: typeof base): Program => programOf(project, SEQUENCE);
/** Frames that are seen, from the left. */
const framesAt = (program: Program, n: number): (number | undefined)[] =>
  picturePlan(program)
    .at(n)
    .map(({ of }) => (Array.isArray(of) ? topFrame(of)?.frame : undefined));

describe('two programs seen together', () => {
  const slow = film(atSpeed(base, 'c0', 0.5));

  it('at the same output time, for as long as either', () => {
    const both = comparedProgram(film(base), slow, how);
    expect(framesAt(both, 40)).toEqual([40, 20]);
    expect(programFrames(both)).toBe(180);
    expect(framesAt(both, 150)).toEqual([undefined, 30]);
    expect(both.frame).toEqual({ width: 128, height: 36 });
    expect(comparedProgram(film(base), slow, { ...how, way: 'above' }).frame).toEqual({ width: 64, height: 72 });
  });

  it('by what they show: the other goes along', () => {
    const both = comparedProgram(film(base), slow, { ...how, by: 'source' });
    expect(framesAt(both, 40)).toEqual([40, 40]);
    expect(programFrames(both)).toBe(120);
    const led = comparedProgram(film(base), slow, { ...how, by: 'source', lead: 'b' });
    expect(framesAt(led, 40)).toEqual([20, 20]);
    expect(programFrames(led)).toBe(180);
  });

  it('by what they show, through groups, backwards, and nowhere where it is not shown', () => {
    const grouped = film(group(base, ['c0', 'c1']));
    expect(sameFootageAt(film(base), 70, grouped)).toBeCloseTo(70, 6);
    const back = film(paced(base, 'c0', constantSpan(-1, 60)));
    expect(sameFootageAt(film(base), 0, back)).toBeCloseTo(0, 6);
    expect(sameFootageAt(film(base), 30, film(rowOf(20)))).toBeUndefined();
    expect(sameFootageAt(film(base), 130, slow)).toBeUndefined();
    // What only a hidden handle has is not shown.
    const trimmed = film(trimClip(base, 'c0', 'start', 20, 'close'));
    expect(sameFootageAt(film(base), 10, trimmed)).toBeUndefined();
    expect(sameFootageAt(film(base), 25, trimmed)).toBeCloseTo(5, 6);
  });

  it('as a wipe, alone, and as what differs', () => {
    const at = (more: Partial<Comparing>) => picturePlan(comparedProgram(film(base), slow, { ...how, ...more })).at(40);
    expect(at({ way: 'wipe', at: 0.3 })[1]).toMatchObject({ settings: { crop: { left: 0.3 } }, covering: true });
    expect(at({ way: 'alone', alone: 'b' }).map(({ of }) => topFrame(of as never)?.frame)).toEqual([20]);
    expect(at({ way: 'difference' })[1]).toMatchObject({ differing: true });
  });

  it('is told piece by piece like any program, and knows what both need', () => {
    const one = comparedProgram(film(base), slow, how);
    const told = updatedProgram(undefined, programUpdate(undefined, one));
    expect(framesAt(told, 40)).toEqual([40, 20]);
    const wiped = comparedProgram(film(base), slow, { ...how, way: 'wipe', at: 0.2 });
    const next = updatedProgram(told, programUpdate(one, wiped));
    expect(next.compared).toMatchObject({ way: 'wipe', at: 0.2 });
    expect(next.compared!.a.tracks[0]!.items[0]).toBe(told.compared!.a.tracks[0]!.items[0]);
    expect(updatedProgram(next, programUpdate(wiped, slow)).compared).toBeUndefined();
    expect(sourcesOf(one)).toEqual(['s0', 's1']);
    expect(isExposed(one)).toBe(false);
    expect(isExposed(comparedProgram(film(base), { ...slow, exposures: [{ id: 'e', slow: 'blended' }] }, how))).toBe(
      true,
    );
    expect(enlargements(one).of('s0')).toBe(1);
  });
});

describe('sides', () => {
  const slow = atSpeed(newVersion(base, { clip: 'c0' }, newId, 'Slow'), 'c0', 0.5);
  const target = { clip: 'c0' };

  it('are what it is now, a version of it, its footage, and ways of making its pictures', () => {
    const first = versionsIn(slow, target)[0]!;
    const now = sideProgram(slow, target, { is: 'now' })!;
    const version = sideProgram(slow, target, { is: 'version', id: first.id })!;
    expect([now, version].map(programFrames)).toEqual([120, 60]);
    expect(programFrames(sideProgram(slow, target, { is: 'source' })!)).toBe(60);
    expect(sideProgram(slow, { container: SEQUENCE }, { is: 'source' })).toBeUndefined();
    expect(sideProgram(slow, target, { is: 'version', id: 'gone' })).toBeUndefined();
    expect(sideProgram(slow, target, { is: 'content', content: first.content })).toMatchObject({ length: 60 });
    // The same one as long as nothing changes.
    expect(sideProgram(slow, target, { is: 'version', id: first.id })).toBe(version);
    const leaf = leavesOf(picturePlan(sideProgram(slow, target, { is: 'made', way: 'blend' })!).at(41))[0];
    expect(leaf).toMatchObject({ frame: 20, share: 0.5, way: 'blended' });
  });

  it('start their footage where the clip starts, the way it plays', () => {
    const back = paced(base, 'c0', constantSpan(-0.5, 60));
    const turned = { ...back, clips: back.clips.map((clip) => (clip.id === 'c0' ? { ...clip, timing: { ...clip.timing, start: 40 } } : clip)) }; // prettier-ignore
    const own = sideProgram(turned, target, { is: 'source' })!;
    expect([topFrame(picturePlan(own).at(0))?.frame, topFrame(picturePlan(own).at(10))?.frame]).toEqual([40, 30]);
  });
});

describe('the numbers of a program', () => {
  const counted = (program: Program) => [...countProgram(program)].at(-1)!;

  it('are counted picture by picture', () => {
    expect(counted(film(rowOf(60)))).toMatchObject({
      frames: 60,
      once: 60,
      repeated: 0,
      skipped: 0,
      made: 0,
      slowest: 1,
    });
    expect(counted(film(atSpeed(rowOf(60), 'c0', 0.5)))).toMatchObject({
      frames: 120,
      once: 0,
      repeated: 60,
      longestRun: 2,
    });
    expect(counted(film(atSpeed(rowOf(60), 'c0', 3)))).toMatchObject({ frames: 20, once: 20, skipped: 38, fastest: 3 });
  });

  it('tell what is made, and pass nothing over from one shot to the next', () => {
    const blended = { ...film(atSpeed(rowOf(60), 'c0', 0.5)), exposures: [{ id: 'e', slow: 'blended' as const }] };
    expect(counted(blended)).toMatchObject({ frames: 120, made: 59, repeated: 1, once: 59 });
    expect(counted(film(rowOf(10, 10)))).toMatchObject({ once: 20, skipped: 0 });
    // Averaging all of 500 frames passes none over; single ones pass over 499 each (common practice: the first is smoother).
    const fast = atSpeed(rowOf(5000), 'c0', 500);
    expect(counted(film(fast))).toMatchObject({ frames: 10, once: 10, skipped: 9 * 499, made: 0 });
    const open = sideProgram(fast, { container: SEQUENCE }, { is: 'made', way: 'open' })!;
    expect(counted(open)).toMatchObject({ frames: 10, skipped: 0, made: 10 });
  });

  it('are none of nothing', () => {
    const map = { sourceRate: { num: 30, den: 1 }, outputRate: { num: 30, den: 1 }, sourceFrames: 5, start: 0, spans: [constantSpan(0, 5)] }; // prettier-ignore
    expect(counted(mapProgram(map, 's'))).toMatchObject({ frames: 5, once: 0, repeated: 4, longestRun: 5, slowest: 0 });
  });
});
