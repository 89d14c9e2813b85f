import { EnvelopeMaker, warmUp } from './envelope';
import { envelopeBytes, joinedEnvelope, readEnvelope } from './envelope-file';
import { hat, kick, sound } from './test-songs';

const RATE = 44_100;
const HOP = 221;
const hits = [0.2, 0.7, 1.15, 1.6].flatMap((at) => [
  { at, hit: kick },
  { at: at + 0.2, hit: hat },
]);
const samples = sound(RATE, 2, hits);

function whole() {
  const maker = new EnvelopeMaker(RATE);
  maker.push(samples);
  return maker.envelope();
}

it('made from the middle of the sound it is the same as made from the start', () => {
  const all = whole();
  const warm = warmUp(RATE);
  for (const first of [warm, 100, 257]) {
    const maker = new EnvelopeMaker(RATE);
    maker.push(samples.subarray((first - warm) * HOP));
    const part = maker.envelope();
    expect(part.bands.low.slice(warm)).toEqual(all.bands.low.slice(first));
    expect(part.levels.mid.slice(warm)).toEqual(all.levels.mid.slice(first));
    part.changes.slice(warm).forEach((value, i) => expect(value).toBeCloseTo(all.changes[first + i]!, 6));
  }
});

it('comes back from its bytes to within a 65535th of its greatest value, in pieces or in one', () => {
  const { bands, levels, changes, ...times } = whole();
  const piece = (from: number, to: number) => ({
    bands: { low: bands.low.slice(from, to), mid: bands.mid.slice(from, to), high: bands.high.slice(from, to) },
    levels: { low: levels.low.slice(from, to), mid: levels.mid.slice(from, to), high: levels.high.slice(from, to) },
    changes: changes.slice(from, to),
  });
  const kept = [piece(0, 150), piece(150, bands.low.length)].map((one) => readEnvelope(envelopeBytes(one)));
  const back = joinedEnvelope(kept, RATE);
  expect(back).toMatchObject(times);
  const most = Math.max(...bands.high);
  expect(back.bands.high).toHaveLength(bands.high.length);
  expect(back.changes).toHaveLength(changes.length);
  back.changes.forEach((value, i) => expect(value).toBeCloseTo(changes[i]!, 4));
  back.bands.high.forEach((value, i) => expect(Math.abs(value - bands.high[i]!)).toBeLessThan(most / 65_000));
});

it('bytes of something else are none', () => {
  expect(() => readEnvelope(new Uint8Array(4))).toThrow(RangeError);
  const bytes = envelopeBytes(whole());
  expect(() => readEnvelope(bytes.subarray(0, -1))).toThrow('aren’t onsets');
});

it('a full sine is level 1 in its band and next to nothing in the others', () => {
  const maker = new EnvelopeMaker(48_000);
  maker.push(Float32Array.from({ length: 48_000 }, (_, i) => Math.sin((2 * Math.PI * 1000 * i) / 48_000)));
  const { levels } = maker.envelope();
  expect(levels.mid[100]).toBeGreaterThan(0.97);
  expect(levels.mid[100]).toBeLessThan(1.03);
  expect(levels.low[100]).toBeLessThan(0.01);
  expect(levels.high[100]).toBeLessThan(0.01);
});
