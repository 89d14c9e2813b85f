import { codecName } from './codec-name';

it('names codecs as people do', () => {
  expect(['avc', 'hevc', 'opus', 'aac', 'flac', 'pcm-s16', 'pcm-f32be', 'ulaw'].map(codecName)).toEqual([
    ...['H.264', 'HEVC (H.265)', 'Opus', 'AAC', 'FLAC', 'PCM 16 bit', 'PCM 32 bit float', 'ULAW'],
  ]);
});
