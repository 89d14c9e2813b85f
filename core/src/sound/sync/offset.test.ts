import { noiseOf } from '../../sound-effects/noise';
import { EnvelopeMaker } from '../../beats/envelope';
import { closeLookAt, CLOSE_LOOK, exactOffset, heardPart, roughOffset, SURE } from './offset';

const RATE = 16_000;

/** Something that happens: knocks, hisses and tones at moments of no order, as samples of any rate. */
function happening(seconds: number, seed: number): (t: number) => number {
  const next = noiseOf(seed);
  const events: { at: number; pitch: number; fall: number; loud: number }[] = [];
  for (let at = 0.3; at < seconds - 0.5; at += 0.35 + 0.3 * next()) {
    events.push({ at, pitch: 900 + 700 * next(), fall: 25 + 15 * next(), loud: 0.5 + 0.4 * next() });
  }
  return (t) =>
    events.reduce((sum, { at, pitch, fall, loud }) => {
      const since = t - at;
      return since < 0 || since > 0.4
        ? sum
        : sum +
            loud * Math.exp(-fall * since) * (Math.sin(2 * Math.PI * pitch * since) + Math.sin(9000 * since * since));
    }, 0);
}

/** A recording of it that begins at `from`: other gain, its own noise, and the sound dulled as by another room. */
function recording(
  what: (t: number) => number,
  from: number,
  seconds: number,
  rate: number,
  seed: number,
): Float32Array {
  const noise = noiseOf(seed);
  let dull = 0;
  return Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) => {
    dull += 0.6 * (what(from + i / rate) - dull);
    return 0.4 * dull + 0.02 * noise();
  });
}

const envelopeOf = (samples: Float32Array, rate: number) => {
  const maker = new EnvelopeMaker(rate);
  maker.push(samples);
  return maker.envelope();
};

describe.each([
  ['that begins later', 3.2173, 14, RATE],
  ['that begins sooner', -2.4406, 22, RATE],
  ['at another rate', 1.0009, 16, 22_050],
])('a second recording %s', (_, begins, seconds, rate) => {
  const what = happening(24, 11);
  const ours = recording(what, 0, 20, RATE, 3);
  const theirs = recording(what, begins, seconds, rate, 5);
  const [a, b] = [envelopeOf(ours, RATE), envelopeOf(theirs, rate)];
  const rough = roughOffset(a, b);

  it('is found to some milliseconds, and surely', () => {
    expect(Math.abs(rough.seconds + begins)).toBeLessThan(0.006);
    expect(rough.sureness).toBeGreaterThan(SURE);
  });

  it('then to a fraction of a millisecond', () => {
    const from = closeLookAt(a, b, rough.seconds);
    expect(from + CLOSE_LOOK).toBeLessThanOrEqual(20);
    const cut = (samples: Float32Array, at: number, per: number) => {
      const first = Math.max(0, Math.round(at * per));
      return { samples: samples.slice(first, first + Math.round(CLOSE_LOOK * per)), rate: per, from: first / per };
    };
    const exact = exactOffset(cut(ours, from, RATE), cut(theirs, from + rough.seconds, rate), rough.seconds);
    expect(Math.abs(exact + begins)).toBeLessThan(0.0002);
  });
});

it('two recordings of different things are not taken for one', () => {
  const [a, b] = [7, 301].map((seed) => envelopeOf(recording(happening(20, seed), 0, 18, RATE, seed), RATE));
  expect(roughOffset(a!, b!).sureness).toBeLessThan(SURE);
});

it('silence and nothing have no place', () => {
  const silence = envelopeOf(new Float32Array(RATE * 4), RATE);
  const none = envelopeOf(new Float32Array(0), RATE);
  expect(roughOffset(silence, silence).sureness).toBe(0);
  expect(roughOffset(silence, none)).toEqual({ seconds: 0, sureness: 0 });
});

describe('recordings of hours', () => {
  // Onsets alone, a hundred values a second; those of the second come from a clock that runs 60 millionths slower.
  const RUNS = 1.00006;
  const next = noiseOf(21);
  const moments: number[] = [];
  for (let at = 1; at < 3590; at += 0.4 + 0.9 * Math.abs(next())) moments.push(at);
  const onsets = (seconds: number, at: (moment: number) => number) => {
    const values = new Float32Array(seconds * 100);
    for (const moment of moments) {
      const place = at(moment) * 100;
      for (let i = Math.max(0, Math.ceil(place - 2)); i < Math.min(values.length, place + 2); i++)
        values[i]! += 1 - Math.abs(i - place) / 2;
    }
    const rows = { low: values, mid: values, high: values };
    return { rate: 100, start: 0, bands: rows, levels: rows, levelLag: 0, changes: rows.low, changeLag: 0 };
  };
  const ours = onsets(3600, (moment) => moment);
  const theirs = onsets(3 * 3600, (moment) => 4000 + moment * RUNS);

  it.each([60, 1800, 3500])('are put together where a clip is heard, here at %d s, whatever their clocks do', (at) => {
    const { seconds, sureness } = roughOffset(heardPart(ours, at, at + 10), theirs);
    expect(sureness).toBeGreaterThan(SURE);
    expect(Math.abs(seconds - (4000 + (at + 5) * (RUNS - 1)))).toBeLessThan(0.005);
  });

  it('of more than ten minutes the middle counts', () => {
    const part = heardPart(ours, 0, 3600);
    expect(part.bands.low).toHaveLength(60_000);
    expect(part.start).toBeCloseTo(1500, 6);
    expect(heardPart(ours, 3, 5).bands.low).toHaveLength(3500);
  });
});
