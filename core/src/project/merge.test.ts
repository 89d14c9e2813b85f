import {
  duplicateClips,
  integrityErrors,
  mergeProjects,
  moveClips,
  removeClips,
  renameClip,
  SEQUENCE,
  setMarkers,
  splitClip,
} from '..';
import { atSpeed, clipOf, row, rowOf } from '../../test/projects';

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
    expect(row(document)).toBe('c0/10 c2/30 theirs/30 mine/10');
    expect(conflicts).toEqual(['/sequence/tracks/picture-1/items']);
    expect(integrityErrors(document)).toEqual([]);
  });

  it('take mine where both changed the same, and say where', () => {
    const { document, conflicts } = mergeProjects(base, renameClip(base, 'c0', 'A'), renameClip(base, 'c0', 'B'))!;
    expect(clipOf(document, 'c0').name).toBe('A');
    expect(conflicts).toEqual(['/clips/c0/name']);
  });

  it('are given up where the result would not be whole', () => {
    // I retime a clip and split it; they take it out.
    const mine = splitClip(atSpeed(base, 'c1', 0.5), 'c1', 20, 'half');
    const theirs = removeClips(base, ['c1'], 'close');
    expect(mergeProjects(base, mine, theirs)).toBeUndefined();
    expect(mergeProjects(base, base, theirs)!.document).toEqual(theirs);
    expect(mergeProjects(base, moveClips(base, ['c2'], 'picture-1', 0, 'close'), base)!.conflicts).toEqual([]);
  });
});
