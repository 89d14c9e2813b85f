import type { OnsetEnvelope } from './envelope';
import { loudnessOf } from './loudness';

const RATE = 200;
const COUNT = 10_000;

/** A hit every 1.3 s in the lows, hats between them; hits grow louder towards the end. */
function envelope(): OnsetEnvelope {
  const rows = { low: new Float32Array(COUNT), mid: new Float32Array(COUNT), high: new Float32Array(COUNT) };
  for (let i = 0; i < COUNT; i++) {
    rows.low[i] = (0.2 + (0.8 * i) / COUNT) * 0.9 ** (i % 260);
    rows.high[i] = 0.3 * 0.8 ** (i % 65);
  }
  return { rate: RATE, start: 0.01, levelLag: 0.004, bands: rows, levels: rows, changes: rows.low, changeLag: 0 };
}

/** The share at every value, from the first on: what is asked for anywhere has to be this. */
function straight({ levels }: OnsetEnvelope, bands: readonly ('low' | 'mid' | 'high')[], fall: number): number[] {
  const power = Array.from({ length: COUNT }, (_, i) => bands.reduce((sum, band) => sum + levels[band][i]! ** 2, 0));
  const most = Math.max(...power);
  let now = 0;
  return power.map((value) => {
    const share = value > 0 ? 1 + (10 * Math.log10(value / most)) / 30 : 0;
    now = Math.max(now - 1 / (fall * RATE), share, 0);
    return now;
  });
}

it.each([
  ['all', ['low', 'mid', 'high'], 0.4],
  ['low', ['low'], 2],
  ['high', ['high'], 0.05],
] as const)('%s: what is asked for in the middle is what leads there from the start', (band, bands, fall) => {
  const sound = envelope();
  const expected = straight(sound, bands, fall);
  const loudness = loudnessOf(sound, band, fall);
  for (const i of [9000, 4096, 4095, 4097, 8191, 8192, 1, 261, 9998]) {
    expect(loudness(sound.start + sound.levelLag + i / RATE)).toBeCloseTo(expected[i]!, 5);
  }
  const between = loudness(sound.start + sound.levelLag + 4095.5 / RATE);
  expect(between).toBeCloseTo((expected[4095]! + expected[4096]!) / 2, 5);
});

it('nothing is heard before it begins and after its end, and in silence', () => {
  const sound = envelope();
  const loudness = loudnessOf(sound, 'all', 0.4);
  expect(loudness(-1)).toBe(0);
  expect(loudness(COUNT / RATE + 1)).toBe(0);
  const none = new Float32Array(COUNT);
  const silence = { low: none, mid: none, high: none };
  expect(loudnessOf({ ...sound, levels: silence }, 'all', 0.4)(3)).toBe(0);
});
