import type { MediaFacts, Source } from '@hastig/contract';
import { facts } from '../../../test/project';
import { factRows, sourceMeaning } from './facts';

const sourceOf = (of: MediaFacts): Source => ({ id: 's', name: 's', sha256: '', facts: of });
const rate = (num: number, den = 1) => ({ num, den });

it('shows every fact of a source', () => {
  expect(Object.fromEntries(factRows({ facts }))).toEqual({
    Container: 'MP4',
    Picture: 'H.264 (avc1.64001f)',
    'Frame size': '1280 × 720',
    'Frame rate': '30 fps',
    Scan: 'progressive',
    Frames: '150',
    Duration: '5.000 s',
    'Longest GOP': '30 frames',
    Sound: 'AAC, stereo, 48000 Hz',
    File: '1.0 kB',
  });
});

it('names what is unusual: a fraction, a varying rate, a turned picture, no sound', () => {
  const video = { ...facts.video, rate: rate(30000, 1001), constantRate: false, rotation: 90 as const };
  const rows = Object.fromEntries(factRows({ facts: { ...facts, video, audio: null } }));
  expect(rows).toMatchObject({
    'Frame rate': '30000/1001 (29.97) fps, not constant',
    'Frame size': '1280 × 720, turned 90°',
    Sound: 'none',
  });
});

// Real-frame floors: common practice.
it.each([
  [rate(60), rate(24), 'real frames down to 40%'],
  [rate(120), rate(24), 'real frames down to 20%'],
  [rate(24), rate(24), 'frames repeat below 100%'],
  [rate(24), rate(60), 'frames repeat below 250%'],
])('says what a rate means on a sequence: %#', (own, sequence, meaning) => {
  expect(sourceMeaning(sourceOf({ ...facts, video: { ...facts.video, rate: own } }), sequence)).toContain(meaning);
});

describe('what has no moving picture', () => {
  const sound = { ...facts, video: null, audio: { codec: 'flac', channels: 1, sampleRate: 44_100, seconds: 7325.5 } };
  const still = { ...facts, video: null, audio: null, still: { codec: 'png', width: 640, height: 480, pictures: 1 } };

  it('says how long a sound lasts, and in samples', () => {
    expect(Object.fromEntries(factRows({ facts: sound }))).toMatchObject({
      Sound: 'FLAC, mono, 44100 Hz',
      Samples: String(7325.5 * 44_100),
      Duration: '7325.500 s',
    });
    expect(sourceMeaning(sourceOf(sound), rate(24))).toBe('Sound, mono, 44.1 kHz, 2 h 2 min');
    const short = { ...sound, audio: { ...sound.audio, seconds: 3.25 } };
    expect(sourceMeaning(sourceOf(short), rate(24))).toBe('Sound, mono, 44.1 kHz, 3.3 s');
  });

  it('says of a still how large it is, of numbered ones also which are missing', () => {
    const rows = Object.fromEntries(factRows({ facts: { ...still, still: { ...still.still, alpha: true } } }));
    expect(rows).toMatchObject({ Picture: 'PNG, with alpha', 'Frame size': '640 × 480', Sound: 'none' });
    expect(rows).not.toHaveProperty('Numbering');
    const gaps = [1, 2, 3, 4].map((nth) => ({ from: 10 * nth, count: nth }));
    const run = { ...still.still, pictures: 40, first: 5, gaps };
    expect(Object.fromEntries(factRows({ facts: { ...still, still: run } }))).toMatchObject({
      Frames: '40',
      'Frame rate': '24 fps',
      Duration: '1.667 s',
      Numbering: '5–54, missing 10, 20–21, 30–32 and 1 more',
    });
  });
});

it('a file that was converted says from what', () => {
  const rows = Object.fromEntries(
    factRows({ facts: { ...facts, converted: { from: 'H.265 / HEVC', bytes: 2_000_000 } } }),
  );
  expect(rows['Converted from']).toBe('H.265 / HEVC, 2.0 MB, kept');
});
