import type { ProjectDocument } from '@hastig/contract';
import {
  addTrack,
  clipProgram,
  groupClips,
  insertClip,
  makeRate,
  mapOf,
  muteClip,
  picturePlan,
  programOf,
  reverseRange,
  SEQUENCE,
  soundPieces,
  soundRuns,
  sourcesOf,
  splitClip,
  topFrame,
  trimClip,
  wholeClip,
  withTiming,
} from '..';
import { constantSpan } from '../retime';
import { atSpeed, clipOf, paced, row, rowOf } from '../../test/projects';

const group = (project: ProjectDocument, ids: string[], name = 'g'): ProjectDocument =>
  groupClips(project, ids, { groupId: name, clipId: `c-${name}`, name });

/** What is heard, as `source from–to @first frame`, seconds and frames rounded. */
function heard(project: ProjectDocument): string[] {
  return soundRuns(programOf(project, SEQUENCE)).map(({ sourceId, from, to, frameAt }) => {
    const show = (value: number): string => String(Math.round(value * 1000) / 1000);
    return `${sourceId} ${show(from * 30)}–${show(to * 30)} @${show(frameAt(from + 1e-9))}`;
  });
}

describe('the picture plan of a sequence', () => {
  it('shows nothing in gaps and past a clip’s end', () => {
    const plan = picturePlan(programOf(trimClip(rowOf(10, 20), 'c1', 'start', 5, 'leave'), SEQUENCE));
    expect(plan.count).toBe(30);
    expect([9, 10, 14, 15].map((n) => topFrame(plan.at(n))?.frame)).toEqual([9, undefined, undefined, 5]);
  });

  it('at another rate keeps seconds, cuts and all', () => {
    const plan = picturePlan(programOf(rowOf(30, 30), SEQUENCE), makeRate(60));
    expect(plan.count).toBe(120);
    expect([0, 59, 60, 119].map((n) => `${topFrame(plan.at(n))!.sourceId}:${topFrame(plan.at(n))!.frame}`)).toEqual([
      's0:0',
      's0:29',
      's1:0',
      's1:29',
    ]);
  });

  it('names the clip of the outermost level, and every source there is', () => {
    const project = group(rowOf(10, 20, 30), ['c0', 'c1']);
    const program = programOf(project, SEQUENCE);
    expect(picturePlan(program).at(15)).toEqual([{ of: { sourceId: 's1', frame: 5, clipId: 'c-g' } }]);
    expect(sourcesOf(program).sort()).toEqual(['s0', 's1', 's2']);
    expect(programOf(project, SEQUENCE)).toBe(program);
  });

  it('of one clip shows all of its timing, handles too', () => {
    const project = trimClip(rowOf(30), 'c0', 'start', 12, 'close');
    const plan = picturePlan(clipProgram(project, clipOf(project, 'c0')));
    expect([plan.count, topFrame(plan.at(0))!.frame, topFrame(plan.at(29))!.frame]).toEqual([30, 0, 29]);
  });

  it('holds a group’s first and last frame where its clip runs out of it', () => {
    const project = group(rowOf(10, 20), ['c0', 'c1']);
    const long = withTiming(project, 'c-g', {
      ...mapOf(project, clipOf(project, 'c-g')),
      spans: [constantSpan(1, 40)],
    });
    const plan = picturePlan(programOf(long, SEQUENCE));
    expect(topFrame(plan.at(39))).toMatchObject({ sourceId: 's1', frame: 19 });
  });
});

describe('the sound of a sequence', () => {
  it('is one run a clip, and goes on without a fade where nothing was cut', () => {
    const split = splitClip(rowOf(10, 20), 'c1', 17, 'x');
    expect(heard(split)).toEqual(['s0 0–10 @0', 's1 10–30 @0']);
    expect(soundRuns(programOf(split, SEQUENCE)).map(({ fadeIn, fadeOut }) => [fadeIn, fadeOut])).toEqual([
      [false, true],
      [true, false],
    ]);
  });

  it('follows groups through their maps, turned round and at half speed', () => {
    const grouped = group(rowOf(10, 20), ['c0', 'c1']);
    const turned = withTiming(
      grouped,
      'c-g',
      reverseRange(mapOf(grouped, clipOf(grouped, 'c-g')), { from: 0, to: 30 }),
    );
    // Half open: backwards from frame 29 down, the cut at 10 is passed at output 19.
    expect(heard(turned)).toEqual(['s1 0–19 @19', 's0 19–29 @10']);
    const slow = atSpeed(grouped, 'c-g', 0.5);
    expect(heard(slow)).toEqual(['s0 0–20 @0', 's1 20–60 @0']);
    expect(soundRuns(programOf(slow, SEQUENCE))[1]!.rateAt(1.5)).toBeCloseTo(15, 9);
  });

  it('is mixed from all tracks, silent where it is muted', () => {
    let project = addTrack(rowOf(30, 20), SEQUENCE, 'sound', 'ear');
    const clip = { ...wholeClip(project, 'n', project.sources[1]!), shown: { from: 0, frames: 10 } };
    project = insertClip(project, SEQUENCE, 'ear', 5, clip);
    expect(row(project, 1)).toBe('(5) n/10');
    const at = (frame: number, one = project): string[] =>
      soundPieces(soundRuns(programOf(one, SEQUENCE)), 30, frame, 1).map(({ run }) => run.sourceId);
    expect([at(4), at(5), at(15)]).toEqual([['s0'], ['s0', 's1'], ['s0']]);
    expect(at(5, muteClip(project, 'c0', true))).toEqual(['s1']);
  });

  it('is cut where a map jumps, and its pieces cover every sample once', () => {
    const jump = paced(rowOf(60), 'c0', constantSpan(1, 20), { ...constantSpan(1, 20), jump: 15 });
    expect(heard(jump)).toEqual(['s0 0–20 @0', 's0 20–40 @35']);
    const pieces = soundPieces(soundRuns(programOf(jump, SEQUENCE)), 48_000, 0, 64_000);
    expect(pieces.map(({ first, count }) => [first, count])).toEqual([
      [0, 32_000],
      [32_000, 32_000],
    ]);
  });
});
