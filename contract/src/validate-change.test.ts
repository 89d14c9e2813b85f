import { checkChangedDocument, checkProjectDocument, isText, keptText, type ProjectDocument } from '.';

const rate = { num: 24, den: 1 };
const marker = (n: number) => ({ id: `m${n}`, at: n, name: '', tone: 'oak' as const });
const document: ProjectDocument = {
  version: 9,
  name: 'Film',
  defaults: { length: 'ripple', arrivals: 'lay' },
  sequence: {
    ...{ rate, width: 1280, height: 720, sampleRate: 48_000, startFrame: 0 },
    tracks: [{ id: 'picture-1', kind: 'picture', name: 'Picture', items: [{ gap: 5 }] }],
    markers: [marker(1), marker(2)],
  },
  ...{ sources: [], groups: [], clips: [] },
};

describe('a document that came of a valid one', () => {
  const { sequence } = document;
  it.each<[string, object]>([
    ['nothing', document],
    ['its name', { ...document, name: '' }],
    ['a marker', { ...document, sequence: { ...sequence, markers: [marker(1), { ...marker(2), at: -1 }] } }],
    ['a track', { ...document, sequence: { ...sequence, tracks: [{ ...sequence.tracks[0]!, items: [{ gap: 0 }] }] } }],
    ['a field that is none', { ...document, sequence: { ...sequence, colour: 'red' } }],
    ['a clip', { ...document, clips: [{ id: 'c' }] }],
    ['a list', { ...document, groups: 'none' }],
    ['all of it', null as unknown as object],
  ])('is judged as the whole is: %s', (_, after) => {
    const [changed, whole] = [checkChangedDocument(document, after), checkProjectDocument(after)];
    expect(changed.ok).toBe(whole.ok);
    const pointers = (checked: typeof whole): string[] =>
      checked.ok ? [] : checked.errors.map(({ pointer }) => pointer);
    expect(pointers(changed)).toEqual(pointers(whole));
  });

  it('is looked at only where it changed', () => {
    const wrong = { ...marker(3), at: -1 };
    // Known to be valid, as far as the check is told.
    const before = { ...document, sequence: { ...sequence, markers: [wrong] } };
    const after = { ...before, sequence: { ...before.sequence, markers: [wrong, marker(4)] } };
    expect(checkChangedDocument(before, after).ok).toBe(true);
  });
});

describe('text that is kept', () => {
  it('is cut by code points, and never in the middle of one', () => {
    expect(keptText('🎬🎬🎬', 2)).toBe('🎬🎬');
    expect([...keptText('🎬'.repeat(300))]).toHaveLength(200);
    expect(keptText('short')).toBe('short');
  });

  it('has no character that cannot be kept', () => {
    expect(keptText('a\0b\ud83d')).toBe('a\ufffdb\ufffd');
    expect(['a\0', '\udfff', 'a\ud83d b', '🎬'].map(isText)).toEqual([false, false, false, true]);
  });
});
