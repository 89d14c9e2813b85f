import { silentWords } from './hearing';

// Codecs as the reading library names them (mediabunny 1.61, `AUDIO_CODECS`), and what it does not know.
it.each(['aac', 'mp3', 'opus', 'vorbis', 'flac', 'ulaw', 'alaw', 'pcm-s16', 'pcm-f32be', 'ac3', 'eac3'])(
  '%s is heard, and nothing is told',
  (codec) => {
    expect(silentWords({ codec })).toBeUndefined();
  },
);

it.each([
  ['dts', 'The sound is DTS'],
  ['unknown', 'The sound is in an unknown format'],
])('%s stays silent, and what to do is told', (codec, words) => {
  expect(silentWords({ codec })).toContain(words);
  expect(silentWords({ codec })).toContain('Convert');
});

it('no sound is nothing to tell', () => {
  expect(silentWords(null)).toBeUndefined();
});
