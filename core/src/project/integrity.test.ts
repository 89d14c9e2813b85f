import type { Clip, Group, ProjectDocument } from '@hastig/contract';
import {
  constantSpan,
  duplicateClips,
  holdsGroup,
  integrityErrors,
  integrityErrorsOfChange,
  newProject,
  tooMuch,
} from '..';
import { group, rowOf } from '../../test/projects';

/** A project of groups that hold clips of others: `holds[n]` are the numbers of those that group `n` shows. */
function nested(holds: readonly (readonly number[])[]): ProjectDocument {
  const clips: Clip[] = [];
  const show = (group: number): string => {
    const id = `c${clips.length}`;
    const timing = { start: 0, spans: [constantSpan(1, 10)] };
    clips.push({
      id,
      name: id,
      of: { kind: 'group', id: `g${group}` },
      timing,
      shown: { from: 0, frames: 10 },
      length: 'ripple',
    });
    return id;
  };
  const groups = holds.map((inside, n): Group => ({
    ...{ id: `g${n}`, name: `g${n}`, rate: { num: 30, den: 1 }, markers: [] },
    tracks: [{ id: 't', kind: 'picture', name: 't', items: inside.map((group) => ({ clip: show(group) })) }],
  }));
  const project = newProject('Nested');
  const [track] = project.sequence.tracks;
  return {
    ...project,
    groups,
    sequence: { ...project.sequence, tracks: [{ ...track!, items: [{ clip: show(0) }] }] },
    clips,
  };
}

const whole = (project: ProjectDocument): string[] => integrityErrors(project).map(({ reason }) => reason);

describe('groups that lie in groups', () => {
  it('are looked at once each, however often they are held: 60 that each hold the next twice', () => {
    const project = nested(Array.from({ length: 60 }, (_, n) => (n < 59 ? [n + 1, n + 1] : [])));
    expect(whole(project)).toEqual([]);
    expect(holdsGroup(project, 'g0', 'g59')).toBe(true);
    expect(holdsGroup(project, 'g59', 'g0')).toBe(false);
  });

  it('may lie in each other as deep as a project has groups', () => {
    const chain = Array.from({ length: 10_000 }, (_, n) => (n < 9999 ? [n + 1] : []));
    expect(whole(nested(chain))).toEqual([]);
    chain[9999] = [0];
    expect(whole(nested(chain))).toEqual([expect.stringContaining('contains itself')]);
  });

  it.each([
    ['in itself', [[0]]],
    ['in one that lies in it', [[1], [0]]],
    ['three deep, beside one that does not', [[1, 3], [2], [1], []]],
  ])('are refused %s', (_, holds) => {
    expect(whole(nested(holds))).toContainEqual(expect.stringContaining('contains itself'));
  });
});

it('refuses groups in groups that come to more clips than anybody could play', () => {
  let project = rowOf(30);
  for (let level = 1; level <= 14; level++) {
    project = duplicateClips(project, [level === 1 ? 'c0' : `c-g${level - 1}`], [`d${level}`]);
    project = group(project, [level === 1 ? 'c0' : `c-g${level - 1}`, `d${level}`], `g${level}`);
    // Each level doubles it: 2^13 is still less than ten thousand.
    expect(integrityErrors(project).length).toBe(level < 14 ? 0 : 1);
  }
  expect(integrityErrors(project)[0]!.reason).toContain('10000 clips');
  expect(tooMuch(project)).toContain('This would make 16384');
});

describe('what came of a project without errors', () => {
  const before = nested([[1], [2, 2], []]);
  const [first, ...others] = before.clips;

  it('is looked at again where a clip, a row or what a clip shows is another', () => {
    const changes: Partial<ProjectDocument>[] = [
      { clips: others },
      { clips: [{ ...first!, of: { kind: 'group', id: 'gone' } }, ...others] },
      { clips: [{ ...first!, id: 'renamed' }, ...others] },
      { groups: before.groups.slice(1) },
      { groups: before.groups.map((one) => ({ ...one, tracks: [] })) },
      { sequence: { ...before.sequence, tracks: [] } },
    ];
    for (const change of changes) {
      const after = { ...before, ...change };
      expect(integrityErrorsOfChange(before, after)).toEqual(integrityErrors(after));
      expect(integrityErrors(after)).not.toEqual([]);
    }
  });

  it('has none where only names, timings or markers are others', () => {
    const after = {
      ...before,
      clips: before.clips.map((clip) => ({ ...clip, name: 'another', timing: { ...clip.timing, start: 4 } })),
      groups: before.groups.map((one) => ({ ...one, name: 'another', tracks: one.tracks.map((row) => ({ ...row })) })),
    };
    expect(integrityErrorsOfChange(before, after)).toEqual([]);
    expect(integrityErrors(after)).toEqual([]);
  });
});
