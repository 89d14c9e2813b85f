import { checkProjectDocument, type ProjectDocument } from '@hastig/contract';
import {
  addSource,
  addTrack,
  duplicateClips,
  integrityErrors,
  makeRate,
  mergeProjects,
  moveClips,
  removeClips,
  removeMarkers,
  removeSource,
  renameClip,
  SEQUENCE,
  setMarkers,
  splitClip,
  trimClip,
  ungroup,
  withReadAs,
  withSequenceRate,
} from '..';
import { atSpeed, clipOf, group, newId, row, rowOf } from '../../test/projects';

const base = rowOf(10, 20, 30);

describe('two states put together', () => {
  it('keep what either changed', () => {
    const mine = setMarkers(renameClip(base, 'c0', 'Mine'), SEQUENCE, [{ id: 'm', at: 3, name: '', tone: 'oak' }]);
    const theirs = { ...atSpeed(base, 'c1', 0.5), name: 'Theirs' };
    const { document, conflicts } = mergeProjects(base, mine, theirs)!;
    expect(conflicts).toEqual([]);
    expect(document.name).toBe('Theirs');
    expect(clipOf(document, 'c0').name).toBe('Mine');
    expect(row(document)).toBe('c0/10 c1/40 c2/30');
    expect(document.sequence.markers).toHaveLength(1);
  });

  it('keep what either laid, drop what one removed and the other left alone', () => {
    const mine = duplicateClips(base, ['c0'], ['mine']);
    const theirs = removeClips(duplicateClips(base, ['c2'], ['theirs']), ['c1'], 'close');
    const { document, conflicts } = mergeProjects(base, mine, theirs)!;
    expect(row(document)).toBe('c0/10 mine/10 c2/30 theirs/30');
    expect(conflicts).toEqual(['/sequence/tracks/picture-1/items']);
    expect(integrityErrors(document)).toEqual([]);
  });

  it('take mine where both changed the same, and say where', () => {
    const { document, conflicts } = mergeProjects(base, renameClip(base, 'c0', 'A'), renameClip(base, 'c0', 'B'))!;
    expect(clipOf(document, 'c0').name).toBe('A');
    expect(conflicts).toEqual(['/clips/c0/name']);
  });

  it('keep what I changed and they took out, with what it is made of, in its place', () => {
    const mine = splitClip(atSpeed(base, 'c1', 0.5), 'c1', 20, 'half');
    const theirs = removeSource(removeClips(base, ['c1'], 'close'), 's1');
    const { document, conflicts } = mergeProjects(base, mine, theirs)!;
    expect(row(document)).toBe('c0/10 c1/10 half/30 c2/30');
    expect(conflicts).toEqual(expect.arrayContaining(['/clips/c1', '/sources/s1']));
    // The other way round I took it out.
    expect(row(mergeProjects(base, theirs, mine)!.document)).toBe('c0/10 half/30 c2/30');
    expect(mergeProjects(base, base, theirs)!.document).toEqual(theirs);
    expect(mergeProjects(base, moveClips(base, ['c2'], 'picture-1', 0, 'close'), base)!.conflicts).toEqual([]);
  });

  it('take values as wholes that mean something together: a rate, a range, keys', () => {
    const [mine, theirs] = [makeRate(25), makeRate(30000, 1001)].map((rate) => withSequenceRate(base, rate));
    const { document, conflicts } = mergeProjects(base, mine!, theirs!)!;
    expect(document.sequence.rate).toEqual({ num: 25, den: 1 });
    expect(document).toEqual(mine);
    expect(conflicts).toEqual(['/sequence/rate']);
    // Frames laid at one rate mean nothing at another.
    const laid = duplicateClips(base, ['c0'], ['more']);
    for (const [a, b] of [
      [mine!, laid],
      [laid, mine!],
    ] as const)
      expect(mergeProjects(base, a, b)!.document.sequence).toEqual(a.sequence);
    const slow = withReadAs(base, 's1', makeRate(15));
    const timed = atSpeed(base, 'c1', 2);
    for (const [a, b] of [
      [slow, timed],
      [timed, slow],
    ] as const) {
      const both = mergeProjects(base, a, b)!;
      expect(both.document.sources[1]).toEqual(a.sources[1]);
      expect(clipOf(both.document, 'c1')).toEqual(clipOf(a, 'c1'));
      expect(both.conflicts).toContain('/sources/s1');
    }
  });

  it('are equal whatever order their keys came in, as after a restart', () => {
    const marked = setMarkers(base, SEQUENCE, [{ id: 'm', at: 3, name: '', tone: 'oak' }]);
    const shuffled = turned(marked);
    const { document, conflicts } = mergeProjects(marked, removeMarkers(marked, SEQUENCE, ['m']), shuffled)!;
    expect(document.sequence.markers).toEqual([]);
    expect(conflicts).toEqual([]);
  });

  it('keep stretches of a row that either changed alone, without asking', () => {
    const long = rowOf(10, 10, 10, 10, 10, 10);
    const mine = moveClips(long, ['c0'], 'picture-1', 20, 'close');
    const theirs = duplicateClips(removeClips(long, ['c4'], 'close'), ['c5'], ['more']);
    const { document, conflicts } = mergeProjects(long, mine, theirs)!;
    expect(conflicts).toEqual([]);
    expect(row(document)).toBe(row(mine).replace('c4/10 ', '') + ' more/10');
  });
});

/** The same with the keys of every object in another order. */
function turned<T>(value: T): T {
  if (Array.isArray(value)) return value.map(turned) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .reverse()
      .map(([key, inner]) => [key, turned(inner)]),
  ) as T;
}

describe('every pair of edits', () => {
  const start = setMarkers(
    addTrack(group(rowOf(10, 20, 30, 40, 50), ['c3', 'c4']), SEQUENCE, 'picture', 'up'),
    SEQUENCE,
    [{ id: 'm', at: 3, name: '', tone: 'oak' }],
  );
  let made = 0;
  const edits: Record<string, (project: ProjectDocument) => ProjectDocument> = {
    rename: (project) => renameClip(project, 'c0', `Name ${made++}`),
    delete: (project) => removeClips(project, ['c0'], 'close'),
    'delete the footage': (project) => removeSource(project, 's0'),
    retime: (project) => atSpeed(project, 'c0', 0.5 + made++),
    trim: (project) => trimClip(project, 'c0', 'end', -3 - (made++ % 3), 'close'),
    split: (project) => splitClip(project, 'c0', 5, `half-${made++}`),
    duplicate: (project) => duplicateClips(project, ['c0'], [`more-${made++}`]),
    move: (project) => moveClips(project, ['c0'], 'picture-1', 30 + (made++ % 2), 'close'),
    'move up': (project) => moveClips(project, ['c0'], 'up', made++ % 9, 'leave'),
    gap: (project) => moveClips(project, ['c1'], 'picture-1', 40 + (made++ % 5), 'leave'),
    group: (project) => group(project, ['c0', 'c1'], `g${made++}`),
    ungroup: (project) => ungroup(project, 'c-g', newId),
    'edit in the group': (project) => atSpeed(project, 'c3', 0.5),
    'delete the group': (project) => removeClips(project, ['c-g'], 'close'),
    mark: (project) =>
      setMarkers(project, SEQUENCE, [...project.sequence.markers, { id: `m${made++}`, at: 9, name: '', tone: 'moss' }]),
    unmark: (project) => removeMarkers(project, SEQUENCE, ['m']),
    'another rate': (project) => withSequenceRate(project, makeRate(made++ % 2 ? 25 : 60)),
    'read as': (project) => withReadAs(project, 's0', makeRate(15)),
    'add footage': (project) =>
      addSource(project, { ...project.sources[0]!, id: `s${made}`, name: 'new' }, `c${made++}`),
    'project name': (project) => ({ ...project, name: `Film ${made++}` }),
  };
  const names = Object.keys(edits);

  it.each(names.flatMap((mine) => names.map((theirs) => [mine, theirs] as const)))(
    'mine “%s” and theirs “%s” come to a whole project, whatever the order of keys',
    (mine, theirs) => {
      const [a, b] = [edits[mine]!(start), edits[theirs]!(start)];
      const merged = mergeProjects(start, a, b);
      expect(merged).toBeDefined();
      expect(integrityErrors(merged!.document)).toEqual([]);
      expect(checkProjectDocument(JSON.parse(JSON.stringify(merged!.document)))).toMatchObject({ ok: true });
      expect(mergeProjects(turned(start), a, turned(b))!.conflicts).toEqual(merged!.conflicts);
      // What I changed alone is as I have it.
      expect(mergeProjects(start, a, start)).toEqual({ document: a, conflicts: [] });
      expect(mergeProjects(start, start, b)!.document).toEqual(b);
      expect(merged!.document.name).toBe(mine === 'project name' ? a.name : b.name);
    },
  );
});
