import { checkProjectDocument, type FilmContent, type GroupContent, type ProjectDocument } from '@hastig/contract';
import {
  addVersion,
  contentExtent,
  contentOf,
  duplicateVersion,
  insertClip,
  makeRate,
  mergeProjects,
  muteClip,
  newVersion,
  plainPicture,
  removeClips,
  removeSource,
  removeVersion,
  renameVersion,
  SEQUENCE,
  setPicture,
  sideProgram,
  splitClip,
  switchVersion,
  takePart,
  versionsIn,
  withLengthMode,
  withReadAs,
  withSequenceRate,
  type VersionTarget,
} from '..';
import { atSpeed, clipOf, group, newId, row, rowOf, sound } from '../../test/projects';

const base = rowOf(10, 20, 30);
const c1: VersionTarget = { clip: 'c1' };
const film: VersionTarget = { container: SEQUENCE };

const names = (project: ProjectDocument, target: VersionTarget): string[] =>
  versionsIn(project, target).map(({ name }) => name);
const idOf = (project: ProjectDocument, target: VersionTarget, name: string): string =>
  versionsIn(project, target).find((one) => one.name === name)!.id;
const to = (project: ProjectDocument, target: VersionTarget, name: string): ProjectDocument => {
  const switched = switchVersion(project, target, idOf(project, target, name), newId);
  sound(switched);
  expect(checkProjectDocument(switched)).toMatchObject({ ok: true });
  return switched;
};

describe('versions of a clip', () => {
  const slow = atSpeed(newVersion(base, c1, newId, 'Slow'), 'c1', 0.5);
  const turned = muteClip(setPicture(slow, ['c1'], { ...plainPicture, opacity: 0.5 }), 'c1', true);

  it('begin with what it is, and go on in the new one', () => {
    expect(names(slow, c1)).toEqual(['Version 1', 'Slow']);
    expect(row(slow)).toBe('c0/10 c1/40 c2/30');
  });

  it('change places: timing, picture and sound, and what follows moves', () => {
    const first = to(turned, c1, 'Version 1');
    expect(row(first)).toBe('c0/10 c1/20 c2/30');
    expect(clipOf(first, 'c1')).toMatchObject({ timing: clipOf(base, 'c1').timing });
    expect(clipOf(first, 'c1')).not.toHaveProperty('picture');
    expect(clipOf(first, 'c1')).not.toHaveProperty('muted');
    // What was left is as it was left.
    const back = to(first, c1, 'Slow');
    expect(clipOf(back, 'c1')).toEqual({ ...clipOf(turned, 'c1'), versions: expect.anything() });
  });

  it('keep their place where the clip does', () => {
    const slot = to(withLengthMode(slow, 'c1', 'slot'), c1, 'Version 1');
    expect(row(slot)).toBe('c0/10 c1/40 c2/30');
    expect(row(to(slot, c1, 'Slow'))).toBe('c0/10 c1/40 c2/30');
  });

  it('give a part of themselves', () => {
    const first = to(turned, c1, 'Version 1');
    const id = idOf(first, c1, 'Slow');
    const timing = takePart(first, c1, id, 'timing');
    expect(row(timing)).toBe('c0/10 c1/40 c2/30');
    expect(clipOf(timing, 'c1').picture).toBeUndefined();
    const picture = clipOf(takePart(first, c1, id, 'picture'), 'c1');
    expect([picture.picture?.opacity, picture.muted, picture.shown.frames]).toEqual([0.5, undefined, 20]);
    const heard = clipOf(takePart(first, c1, id, 'sound'), 'c1');
    expect([heard.picture, heard.muted, heard.shown.frames]).toEqual([undefined, true, 20]);
    // And takes away what the version does not have.
    const original = idOf(turned, c1, 'Version 1');
    expect(clipOf(takePart(turned, c1, original, 'sound'), 'c1').muted).toBeUndefined();
    expect(clipOf(takePart(turned, c1, original, 'picture'), 'c1').picture).toBeUndefined();
  });

  it('are renamed, doubled and removed, but the one that is worked on', () => {
    const two = duplicateVersion(slow, c1, idOf(slow, c1, 'Slow'), newId);
    expect(names(two, c1)).toEqual(['Version 1', 'Slow', 'Slow 2']);
    expect(row(to(two, c1, 'Slow 2'))).toBe('c0/10 c1/40 c2/30');
    const called = renameVersion(two, c1, idOf(two, c1, 'Slow 2'), ' Slower ');
    expect(names(called, c1)).toEqual(['Version 1', 'Slow', 'Slower']);
    expect(() => renameVersion(two, c1, idOf(two, c1, 'Slow 2'), ' ')).toThrow('characters');
    expect(() => removeVersion(two, c1, idOf(two, c1, 'Slow'))).toThrow('Switch to another version');
    const one = removeVersion(slow, c1, idOf(slow, c1, 'Version 1'));
    expect(clipOf(one, 'c1').versions).toBeUndefined();
    expect(clipOf(one, 'c1').liveVersion).toBeUndefined();
    expect(() => switchVersion(one, c1, 'gone', newId)).toThrow('no longer');
  });

  it('go along with copies, cuts, and however frames are counted', () => {
    expect(clipOf(splitClip(slow, 'c1', 20, 'half'), 'half').versions).toHaveLength(2);
    const film60 = to(withSequenceRate(slow, makeRate(60)), c1, 'Version 1');
    expect(row(film60)).toBe('c0/20 c1/40 c2/60');
    const read = to(withReadAs(slow, 's1', makeRate(15)), c1, 'Version 1');
    expect(row(read)).toBe('c0/10 c1/40 c2/30');
  });

  it('of an earlier moment come beside', () => {
    const earlier = addVersion(atSpeed(base, 'c1', 2), c1, { id: 'e', name: 'Yesterday', content: contentOf(base, c1)! }, newId); // prettier-ignore
    expect(names(earlier, c1)).toEqual(['Version 1', 'Yesterday']);
    expect(row(earlier)).toBe('c0/10 c1/10 c2/30');
    expect(row(to(earlier, c1, 'Yesterday'))).toBe('c0/10 c1/20 c2/30');
  });
});

describe('versions of a group', () => {
  const grouped = group(base, ['c0', 'c1']);
  const g: VersionTarget = { container: 'g' };
  const short = removeClips(newVersion(grouped, g, newId, 'Short'), ['c1'], 'close');

  it('change what lies in it, and the clip that shows it is as long', () => {
    expect(row(short)).toBe('c-g/10 c2/30');
    const whole = to(short, g, 'Version 1');
    expect(row(whole)).toBe('c-g/30 c2/30');
    expect(row(to(whole, g, 'Short'))).toBe('c-g/10 c2/30');
  });

  it('bring back clips under other ids where theirs are elsewhere by now', () => {
    const c9 = { ...clipOf(grouped, 'c1'), id: 'c1' };
    const moved = insertClip(short, SEQUENCE, 'picture-1', 10, c9);
    const whole = to(moved, g, 'Version 1');
    expect(row(whole)).toMatch(/^c-g\/30 c1\/20 c2\/30$/);
    expect(row(whole, 0, whole.groups[0])).toMatch(/^c0\/10 n\d+\/20$/);
  });

  it('bring back groups that are gone, and refuse to lie in themselves', () => {
    const outer = group(grouped, ['c-g', 'c2'], 'outer');
    const target: VersionTarget = { container: 'outer' };
    const without = removeClips(newVersion(outer, target, newId, 'Bare'), ['c-g'], 'close');
    expect(without.groups.map(({ id }) => id)).toEqual(['outer']);
    const back = to(without, target, 'Version 1');
    expect(back.groups.map(({ id }) => id).sort()).toEqual(['g', 'outer']);
    expect(
      row(
        back,
        0,
        back.groups.find(({ id }) => id === 'g'),
      ),
    ).toBe('c0/10 c1/20');
  });
});

describe('a version that is not whole', () => {
  const grouped = group(base, ['c0', 'c1']);

  it('is refused where a group would come to lie in itself', () => {
    const g: VersionTarget = { container: 'g' };
    const inside = clipOf(grouped, 'c-g');
    const then = contentOf(grouped, g) as GroupContent;
    const [track] = then.tracks;
    const looped = { ...then, clips: [...then.clips, { ...inside, id: 'loop' }], tracks: [{ ...track!, items: [{ clip: 'loop' }] }] }; // prettier-ignore
    const kept = addVersion(grouped, g, { id: 'e', name: 'Loop', content: looped }, newId);
    expect(() => switchVersion(kept, g, 'e', newId)).toThrow('contains itself');
    expect(sideProgram(kept, g, { is: 'version', id: 'e' })).toBeUndefined();
  });

  it('is refused where the film of it has a group in a circle, or a clip twice', () => {
    const then = contentOf(grouped, film) as FilmContent;
    const [g] = then.groups;
    const circle = { ...then, clips: [...then.clips, { ...clipOf(grouped, 'c-g'), id: 'loop' }], groups: [{ ...g!, tracks: [{ ...g!.tracks[0]!, items: [...g!.tracks[0]!.items, { clip: 'loop' }] }] }] }; // prettier-ignore
    const twice = { ...then, clips: [...then.clips, then.clips[0]!] };
    for (const content of [circle, twice]) {
      const kept = addVersion(grouped, film, { id: 'e', name: 'Wrong', content }, newId);
      expect(() => switchVersion(kept, film, 'e', newId)).toThrow('This version can’t be used');
      expect(sideProgram(kept, film, { is: 'version', id: 'e' })).toBeUndefined();
    }
  });
});

describe('versions of the film', () => {
  const cut = removeClips(newVersion(base, film, newId, 'Cut'), ['c0', 'c2'], 'close');

  it('change all of it', () => {
    expect(row(cut)).toBe('c1/20');
    const whole = to(cut, film, 'Version 1');
    expect(row(whole)).toBe('c0/10 c1/20 c2/30');
    expect(row(to(whole, film, 'Cut'))).toBe('c1/20');
  });

  it('leave a gap where footage is gone, and keep the versions clips have by now', () => {
    const later = newVersion(removeSource(cut, 's0'), c1, newId, 'Later');
    const whole = to(later, film, 'Version 1');
    expect(row(whole)).toBe('(10) c1/20 c2/30');
    expect(names(whole, c1)).toEqual(['Version 1', 'Later']);
  });

  it('give the part of every clip that is in both', () => {
    const slow = atSpeed(newVersion(base, film, newId, 'Slow'), 'c1', 0.5);
    const other = removeClips(to(slow, film, 'Version 1'), ['c0'], 'close');
    expect(row(takePart(other, film, idOf(other, film, 'Slow'), 'timing'))).toBe('c1/40 c2/30');
    const none = removeClips(other, ['c1', 'c2'], 'close');
    expect(() => takePart(none, film, idOf(none, film, 'Slow'), 'timing')).toThrow('None of this version');
  });
});

it('the extent of a version is told without laying it', () => {
  const of = (project: ProjectDocument, target: VersionTarget) => contentExtent(contentOf(project, target)!);
  expect(of(base, film)).toMatchObject({ frames: 60, clips: 3, rate: { num: 30, den: 1 } });
  expect(of(atSpeed(base, 'c1', 0.3), c1)).toMatchObject({ frames: 67, clips: 1 });
  const gapped = removeClips(group(base, ['c0', 'c1', 'c2']), ['c0'], 'leave');
  expect(of(gapped, { container: 'g' })).toMatchObject({ frames: 60, clips: 2 });
  expect(of(removeClips(base, ['c0', 'c1', 'c2'], 'close'), film)).toMatchObject({ frames: 0, clips: 0 });
});

describe('versions in two tabs', () => {
  const two = atSpeed(newVersion(base, c1, newId, 'Slow'), 'c1', 0.5);

  it('that were made in both are both there', () => {
    const mine = newVersion(two, c1, newId, 'Mine');
    const { document } = mergeProjects(two, mine, newVersion(two, c1, newId, 'Theirs'))!;
    expect(names(document, c1).sort()).toEqual(['Mine', 'Slow', 'Theirs', 'Version 1']);
    expect(row(document)).toBe('c0/10 c1/40 c2/30');
    // A version that was begun meanwhile goes on from what the other did.
    expect(row(mergeProjects(two, mine, atSpeed(two, 'c1', 0.5))!.document)).toBe('c0/10 c1/80 c2/30');
  });

  it('that are switched in one and worked on in the other keep what each version is', () => {
    const away = to(two, c1, 'Version 1');
    const edited = atSpeed(two, 'c1', 0.5);
    for (const [mine, theirs, length] of [
      [away, edited, 20],
      [edited, away, 80],
    ] as const) {
      const { document, conflicts } = mergeProjects(two, mine, theirs)!;
      expect(row(document)).toBe(`c0/10 c1/${length} c2/30`);
      expect(conflicts).toContain('/clips/c1/liveVersion');
      // Neither is lost, whichever counts.
      const other = length === 20 ? 'Slow' : 'Version 1';
      expect(row(to(document, c1, other))).toBe(`c0/10 c1/${length === 20 ? 40 : 20} c2/30`);
    }
  });

  it('of the film that are switched take all of the film with them', () => {
    const cut = removeClips(newVersion(base, film, newId, 'Cut'), ['c0'], 'close');
    const away = to(cut, film, 'Version 1');
    const { document } = mergeProjects(cut, away, atSpeed(cut, 'c2', 0.5))!;
    expect(row(document)).toBe('c0/10 c1/20 c2/30');
    expect(row(to(document, film, 'Cut'))).toBe('c1/20 c2/30');
  });
});
