import {
  addTrack,
  duplicateClips,
  insertClip,
  integrityErrors,
  mapOf,
  ownGroup,
  programFrames,
  programOf,
  removeClips,
  reverseRange,
  SEQUENCE,
  ungroup,
  withTiming,
} from '..';
import { atSpeed, clipOf, group, newId, row, rowOf, seen, sound } from '../../test/projects';

describe('groups', () => {
  const frames = Array.from({ length: 60 }, (_, n) => n);

  it('change nothing that is seen, and come apart again', () => {
    const before = rowOf(10, 20, 30);
    const grouped = group(before, ['c0', 'c1']);
    expect(row(grouped)).toBe('c-g/30 c2/30');
    expect(seen(grouped, ...frames)).toEqual(seen(before, ...frames));
    sound(grouped);
    const apart = ungroup(grouped, 'c-g', newId);
    expect(seen(apart, ...frames)).toEqual(seen(before, ...frames));
    expect(apart.groups).toEqual([]);
    sound(apart);
    expect(() => group(before, ['c0', 'c2'])).toThrow('is between the selected clips');
    expect(() => ungroup(atSpeed(grouped, 'c-g', 0.5), 'c-g', newId)).toThrow('is retimed');
  });

  it('are reversed as a whole: the clips run backwards in backward order', () => {
    const grouped = group(rowOf(10, 20, 30), ['c0', 'c1']);
    const map = mapOf(grouped, clipOf(grouped, 'c-g'));
    const turned = withTiming(grouped, 'c-g', reverseRange(map, { from: 0, to: 30 }));
    expect(seen(turned, 0, 19, 20, 29, 30)).toEqual(['s1:19', 's1:0', 's0:9', 's0:0', 's2:0']);
  });

  it('compose exactly, four levels deep, no frame rounded on the way', () => {
    // Each level plays at ×0.5 what the one below plays at ×2: in the end every frame is its own.
    let project = atSpeed(rowOf(240), 'c0', 2);
    for (const level of [1, 2, 3, 4]) {
      const inner = level === 1 ? 'c0' : `c-g${level - 1}`;
      project = atSpeed(group(project, [inner], `g${level}`), `c-g${level}`, level % 2 ? 0.5 : 2);
    }
    project = atSpeed(group(project, ['c-g4'], 'g5'), 'c-g5', 0.5);
    const count = programFrames(programOf(project, SEQUENCE));
    expect(count).toBe(240);
    expect(seen(project, ...Array.from({ length: count }, (_, n) => n))).toEqual(
      Array.from({ length: 240 }, (_, n) => `s0:${n}`),
    );
  });

  it('grow with what is edited inside, forwards and backwards, and so on upwards', () => {
    const grouped = group(rowOf(10, 20, 30), ['c0', 'c1']);
    const twice = duplicateClips(grouped, ['c-g'], ['again']);
    const map = mapOf(twice, clipOf(twice, 'again'));
    const both = withTiming(twice, 'again', reverseRange(map, { from: 0, to: 30 }));
    const after = atSpeed(both, 'c1', 0.5);
    expect(row(after)).toBe('c-g/50 again/50 c2/30');
    expect(seen(after, 49, 50, 99, 100)).toEqual(['s1:19', 's1:19', 's0:0', 's2:0']);
    const outer = group(grouped, ['c-g', 'c2'], 'h');
    expect(row(atSpeed(outer, 'c0', 0.5))).toBe('c-h/70');
  });

  it('share what they hold until one is made its own', () => {
    const twice = duplicateClips(group(rowOf(10, 20), ['c0', 'c1']), ['c-g'], ['again']);
    const own = ownGroup(twice, 'again', 'g2', newId);
    sound(own);
    expect(row(atSpeed(own, 'c0', 0.5))).toBe('c-g/40 again/30');
    expect(removeClips(own, ['again'], 'close').groups.map(({ id }) => id)).toEqual(['g']);
  });

  it('never lie inside themselves', () => {
    const grouped = group(rowOf(10, 20), ['c0', 'c1']);
    const clip = { ...clipOf(grouped, 'c-g'), id: 'loop' };
    expect(() => insertClip(grouped, 'g', 'picture-1', 0, clip)).toThrow('can’t contain itself');
    const items = [{ clip: 'c0' }, { clip: 'c1' }, { clip: 'loop' }];
    const broken = {
      ...grouped,
      clips: [...grouped.clips, clip],
      groups: grouped.groups.map((one) => ({ ...one, tracks: [{ ...one.tracks[0]!, items }] })),
    };
    expect(integrityErrors(broken)).toEqual([{ pointer: '/groups/0', reason: 'g contains itself' }]);
  });

  it('a forward, backward, forward of several clips: three shows of one group', () => {
    const grouped = group(rowOf(10, 20), ['c0', 'c1']);
    const thrice = duplicateClips(duplicateClips(grouped, ['c-g'], ['back']), ['back'], ['on']);
    const map = mapOf(thrice, clipOf(thrice, 'back'));
    const film = withTiming(thrice, 'back', reverseRange(map, { from: 0, to: 30 }));
    expect(seen(film, 0, 29, 30, 59, 60, 89)).toEqual(['s0:0', 's1:19', 's1:19', 's0:0', 's0:0', 's1:19']);
  });
});

it('a group that lies on a sound track comes apart onto tracks of its own, and leaves its place free', () => {
  const grouped = addTrack(group(rowOf(12, 25, 40), ['c0', 'c1']), SEQUENCE, 'sound', 'music');
  const laid = insertClip(grouped, SEQUENCE, 'music', 0, { ...clipOf(grouped, 'c-g'), id: 'heard' });
  const apart = ungroup(laid, 'heard', newId);
  sound(apart);
  expect(apart.clips.some(({ id }) => id === 'heard')).toBe(false);
});
