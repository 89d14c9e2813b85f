import { EnvelopeMaker, type OnsetEnvelope } from './envelope';
import { findOnsets, parabolicTop } from './onsets';
import { click, hat, kick, sound } from './test-songs';

const rounded = ({ time }: { time: number }): number => Math.round(time * 20) / 20;

function envelopeOf(samples: Float32Array, rate: number, block = samples.length): OnsetEnvelope {
  const maker = new EnvelopeMaker(rate);
  for (let at = 0; at < samples.length; at += block) maker.push(samples.subarray(at, at + block));
  return maker.envelope();
}

const moments = [0.5, 0.937, 1.4123, 2.05, 2.718, 3.1416];

describe.each([22_050, 44_100, 48_000, 96_000])('at %s samples a second', (rate) => {
  it.each([
    ['clicks', click],
    ['hats', hat],
  ])('%s are found within 5 ms of where they are, and nothing else', (_, hit) => {
    const samples = sound(
      rate,
      4,
      moments.map((at) => ({ at, hit })),
    );
    const found = findOnsets(envelopeOf(samples, rate));
    expect(found).toHaveLength(moments.length);
    found.forEach(({ time }, i) => expect(Math.abs(time - moments[i]!)).toBeLessThan(0.005));
  });
});

it('bass hits are told from hats that lie between them', () => {
  const kicks = [0.5, 1, 1.5, 2, 2.5].map((at) => ({ at, hit: kick }));
  const hats = [0.25, 0.75, 1.25, 1.75, 2.25].map((at) => ({ at, hit: hat }));
  const envelope = envelopeOf(sound(44_100, 3, [...kicks, ...hats]), 44_100);
  const low = findOnsets(envelope, { band: 'low' });
  expect(low.map(rounded)).toEqual([0.5, 1, 1.5, 2, 2.5]);
  const high = findOnsets(envelope, { band: 'high', sensitivity: 0.7 }).map(rounded);
  for (const { at } of hats) expect(high).toContain(at);
  const all = findOnsets(envelope, { sensitivity: 0.7 });
  expect(all.filter(({ band }) => band === 'low').length).toBeGreaterThanOrEqual(4);
});

it('does not matter in which blocks it comes', () => {
  const samples = sound(
    44_100,
    3,
    moments.slice(0, 4).map((at) => ({ at, hit: kick })),
  );
  const whole = envelopeOf(samples, 44_100);
  for (const block of [1, 100, 1024, 44_100]) expect(envelopeOf(samples, 44_100, block)).toEqual(whole);
});

it('of moments nearer than the least gap the stronger stays', () => {
  const hits = [1, 1.08, 2].map((at, i) => ({ at, hit: (time: number) => click(time) * (i === 1 ? 1 : 0.4) }));
  const envelope = envelopeOf(sound(44_100, 3, hits), 44_100);
  expect(findOnsets(envelope, { leastGap: 0.03, sensitivity: 0.9 })).toHaveLength(3);
  const apart = findOnsets(envelope, { leastGap: 0.2, sensitivity: 0.9 });
  expect(apart.map(({ time }) => Math.round(time * 100) / 100)).toEqual([1.08, 2]);
});

it('greater sensitivity finds all that less of it finds, and more', () => {
  const hits = moments.map((at, i) => ({ at, hit: (time: number) => click(time) * 0.5 ** i }));
  const envelope = envelopeOf(sound(44_100, 4, hits), 44_100);
  const counts = [0, 0.25, 0.5, 0.75, 1].map((sensitivity) => findOnsets(envelope, { sensitivity }).length);
  expect(counts).toEqual([...counts].sort((a, b) => a - b));
  expect(counts[0]).toBeLessThan(counts.at(-1)!);
});

it('silence, a steady tone and a hit at once', () => {
  expect(findOnsets(envelopeOf(new Float32Array(44_100), 44_100))).toEqual([]);
  expect(findOnsets(envelopeOf(new Float32Array(0), 44_100))).toEqual([]);
  const tone = Float32Array.from({ length: 88_200 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 440 * i) / 44_100));
  expect(findOnsets(envelopeOf(tone, 44_100)).length).toBeLessThanOrEqual(1);
  const [first] = findOnsets(envelopeOf(sound(44_100, 1, [{ at: 0, hit: click }]), 44_100));
  expect(first!.time).toBeLessThan(0.005);
});

it('a parabola’s top is found exactly', () => {
  const at = (x: number): number => 5 - 3 * (x - 0.3) ** 2;
  expect(parabolicTop(at(-1), at(0), at(1))).toBeCloseTo(0.3, 12);
});
