import type { Source } from '@hastig/contract';
import { setName, spacingWords, tempoWords } from './beat-words';
import { countedBeats, markersOf } from './made-markers';
import { setField } from './set-field';

const source = {
  id: 's',
  name: 'song.wav',
  sha256: 'a'.repeat(64),
  facts: {
    container: 'WAVE',
    mime: 'audio/wav',
    bytes: 1,
    video: null,
    audio: { codec: 'pcm-s16', channels: 2, sampleRate: 48_000, seconds: 10 },
  },
} satisfies Source;

it('beats are counted in bars from the first whole one on', () => {
  const kinds = countedBeats([0, 0.5, 1, 1.5, 2, 2.5], 4, 1).map(({ kind }) => kind);
  expect(kinds).toEqual(['beat', 'downbeat', 'beat', 'beat', 'beat', 'downbeat']);
  expect(countedBeats([0, 1], 0, 0).map(({ kind }) => kind)).toEqual(['beat', 'beat']);
});

it('markers stand at samples of the sound; what is outside it is left out', () => {
  const made = markersOf(source, [...countedBeats([0.5, 1], 4, 0, [1, 0.25]), { seconds: 11, kind: 'hit' }], 'Beats');
  expect(made).toMatchObject([
    { at: 24_000, kind: 'downbeat', tone: 'oak', set: 'Beats', strength: 1 },
    { at: 48_000, kind: 'beat', tone: 'slate', set: 'Beats', strength: 0.25 },
  ]);
  expect(markersOf(source, [{ seconds: 1, kind: 'hand' }], '')[0]).not.toHaveProperty('set');
});

it('their spacing is told as one would', () => {
  expect(spacingWords([1, 1.469, 1.938, 2.411])).toBe('4 markers, every 0.469 s ± 0 ms');
  expect(spacingWords([1])).toBe('1 marker');
  expect(spacingWords([])).toBe('0 markers');
  expect(tempoWords(119.96)).toBe('120 bpm');
  expect([null, '', 'Hits'].map(setName)).toEqual(['All markers', 'Unnamed set', 'Hits']);
});

describe('the choice of a set', () => {
  const seen = (...sets: string[]) =>
    sets.map((set, at) => ({
      marker: { id: `m${at}`, at, name: '', tone: 'oak' as const, ...(set && { set }) },
      sourceId: 's',
      clipId: 'c',
      at,
    }));

  it('begins with the one that is worked with, or else the one with the most markers', () => {
    const markers = seen('Beats', 'Beats', 'Strikes', '');
    expect(setField(markers, null)).toMatchObject({ initial: 'Beats' });
    expect(setField(markers, 'Strikes')).toMatchObject({ initial: 'Strikes' });
    expect(setField(markers, 'Gone')).toMatchObject({ initial: 'Beats' });
    expect(setField(markers, null, [{ value: 'x', label: 'X' }]).options.map(({ label }) => label)).toEqual([
      'Unnamed set',
      'Beats',
      'Strikes',
      'X',
    ]);
    expect(setField([], null)).toMatchObject({ initial: '', options: [] });
  });
});
