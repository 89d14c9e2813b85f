import { facts } from '../../../test/project';
import { factRows, rateMeaning } from './facts';

const rate = (num: number, den = 1) => ({ num, den });

it('shows every fact of a source', () => {
  expect(Object.fromEntries(factRows({ facts }))).toEqual({
    Container: 'MP4',
    Picture: 'H.264 (avc1.64001f)',
    Size: '1280 × 720',
    Rate: '30 fps',
    Scan: 'progressive',
    Frames: '150',
    Duration: '5.000 s',
    'Longest group': '30 frames',
    Sound: 'AAC, stereo, 48000 Hz',
    File: '1.0 kB',
  });
});

it('names what is unusual: a fraction, a varying rate, a turned picture, no sound', () => {
  const video = { ...facts.video, rate: rate(30000, 1001), constantRate: false, rotation: 90 as const };
  const rows = Object.fromEntries(factRows({ facts: { ...facts, video, audio: null } }));
  expect(rows).toMatchObject({
    Rate: '30000/1001 (29.97) fps, not constant',
    Size: '1280 × 720, turned 90°',
    Sound: 'none',
  });
});

// Real-frame floors: common practice.
it.each([
  [rate(60), rate(24), 'real frames down to 40 %'],
  [rate(120), rate(24), 'real frames down to 20 %'],
  [rate(24), rate(24), 'frames repeat below 100 %'],
  [rate(24), rate(60), 'frames repeat below 250 %'],
])('says what a rate means on a sequence: %#', (source, sequence, meaning) => {
  expect(rateMeaning(source, sequence)).toContain(meaning);
});
