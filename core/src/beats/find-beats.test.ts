import { EnvelopeMaker } from './envelope';
import { findBars } from './bars';
import { findBeats, type BeatReading } from './find-beats';
import { doubled, everyNth, halfBeatLater } from './marks';
import { mean } from './mean';
import { drumLoops } from './test-loops';
import { click, fAtBestLevel, fMeasure, hat, kick, noise, songs, sound, unheardSongs, type Song } from './test-songs';

const RATE = 44_100;

function readingsOfSound(samples: Float32Array, rate = RATE) {
  const maker = new EnvelopeMaker(rate);
  maker.push(samples);
  const envelope = maker.envelope();
  return { envelope, readings: findBeats(envelope) };
}

const readingsOf = ({ seconds, hits }: Song) => readingsOfSound(sound(RATE, seconds, hits));

const found = songs.map((song) => ({ song, ...readingsOf(song) }));

it.each(found)('$song.name: the beats are found as they are meant', ({ song, readings }) => {
  expect(fMeasure(readings[0]!.beats, song.beats)).toBeGreaterThan(0.98);
  expect(readings[0]!.steady).toBe(true);
});

const unheard = Object.values(unheardSongs).map((song) => ({ song, ...readingsOf(song) }));

it.each(unheard)(
  '$song.name, which nothing was fitted to: beats and first beats of bars',
  ({ song, envelope, readings }) => {
    const [best] = readings;
    expect(fMeasure(best!.beats, song.beats)).toBeGreaterThan(0.98);
    const meter = { 'five beats': 5, 'seven beats': 7, 'three beats': 3 }[song.name.split(' a bar')[0]!];
    const [bars] = findBars(envelope, best!.beats);
    expect(bars!.beats).toBe(meter ?? 4);
    if (meter) expect(Math.abs(best!.beats[bars!.first]! - song.beats[0]!) % (meter * 60)).toBeLessThan(0.05);
  },
);

it('half, double and off-beat of the first choice are offered, and how likely each is', () => {
  for (const { readings } of found) {
    const [{ beats }] = readings as [BeatReading];
    const offered = (wanted: readonly number[]): boolean => readings.some((one) => fMeasure(one.beats, wanted) > 0.8);
    const wanted = [everyNth(beats, 2), everyNth(beats, 2, 1), doubled(beats), halfBeatLater(beats)];
    expect(wanted.map(offered)).toEqual([true, true, true, true]);
    const sum = readings.reduce((total, { score }) => total + score, 0);
    expect(sum).toBeGreaterThan(0.5);
    expect(sum).toBeLessThan(1 + 1e-9);
  }
});

it('found beats lie within a few milliseconds of where they are', () => {
  const { song, readings } = found.find((one) => one.song.name.startsWith('rock'))!;
  const off = readings[0]!.beats.map((beat) => Math.min(...song.beats.map((truth) => Math.abs(truth - beat))));
  expect(Math.max(...off.slice(4))).toBeLessThan(0.008);
});

it('a waltz has bars of three, a piece of house bars of four', () => {
  const barsOf = (name: string) => {
    const { envelope, readings } = found.find((one) => one.song.name.startsWith(name))!;
    return findBars(envelope, readings[0]!.beats)[0];
  };
  expect(barsOf('waltz')).toMatchObject({ beats: 3, first: 0 });
  expect(barsOf('house')).toMatchObject({ beats: 4 });
});

// Debian's package sonic-pi-samples, where it and a decoder are installed; the grid of each is told by its length alone.
const loops = drumLoops(40);
(loops.length > 0 ? describe : describe.skip)('played drums', () => {
  const counted = loops.map(({ samples, rate, beats, name }) => {
    const [best] = readingsOfSound(samples, rate).readings;
    return { name, as: fMeasure(best!.beats, beats), level: fAtBestLevel(best!.beats, beats) };
  });

  it('are counted as they are meant, all but three', () => {
    expect(mean(counted.map(({ as }) => as))).toBeGreaterThan(0.88);
    expect(mean(counted.map(({ level }) => level))).toBeGreaterThan(0.93);
    expect(counted.filter(({ as }) => as < 0.9).map(({ name }) => name)).toEqual(['compus', 'safari', 'tabla']);
  });
});

describe('what has no beat is told to have none', () => {
  const steady = (samples: Float32Array, rate = RATE): boolean =>
    readingsOfSound(samples, rate).readings.some((reading) => reading.steady);

  it('silence, and a moment of sound', () => {
    expect(steady(new Float32Array(RATE * 12))).toBe(false);
    expect(steady(sound(RATE, 0.1, [{ at: 0, hit: click }]))).toBe(false);
    expect(steady(sound(RATE, 1, [{ at: 0.5, hit: kick }]))).toBe(false);
    expect(readingsOfSound(new Float32Array(0)).readings).toEqual([]);
  });

  it('noise, and hits that come as they like', () => {
    const next = noise(11);
    expect(steady(Float32Array.from({ length: RATE * 20 }, () => 0.3 * next()))).toBe(false);
    const when = noise(5);
    const hits = [];
    for (let at = 0.3; at < 28; at += 0.15 + 0.35 * (1 + when())) hits.push({ at, hit: kick });
    expect(steady(sound(RATE, 30, hits))).toBe(false);
  });

  it('something like speech: vowels and hisses of all lengths, with pauses', () => {
    const next = noise(23);
    const parts = [];
    for (let at = 0.2; at < 28;) {
      const [pitch, length] = [120 + 60 * next(), 0.12 + 0.08 * next()];
      const vowel = (t: number): number =>
        t > length ? 0 : 0.3 * Math.sin((Math.PI * t) / length) * Math.sin(2 * Math.PI * pitch * t * (1 + t));
      parts.push({ at, hit: next() > 0.2 ? (t: number) => 3 * hat(t) : vowel });
      at += length + 0.04 + (next() > 0.7 ? 0.4 + 0.3 * next() : 0);
    }
    expect(steady(sound(RATE, 30, parts))).toBe(false);
  });

  it('but a click at eight thousand samples a second has one', () => {
    const beats = Array.from({ length: 40 }, (_, i) => 0.3 + i * 0.5);
    const samples = sound(
      8000,
      21,
      beats.map((at) => ({ at, hit: click })),
    );
    const { readings } = readingsOfSound(samples, 8000);
    expect(readings[0]!.steady).toBe(true);
    expect(fAtBestLevel(readings[0]!.beats, beats)).toBeGreaterThan(0.98);
  });
});

describe('the measure of found beats', () => {
  const truth = Array.from({ length: 40 }, (_, i) => 5 + i / 2);
  const moved = (by: number): number[] => truth.map((at) => at + by);

  it('is 1 for all of them, 0.67 for half as many, and nothing for none that is near', () => {
    expect(fMeasure(truth, truth)).toBe(1);
    expect(fMeasure(moved(0.06), truth)).toBe(1);
    const half = truth.filter((_, i) => i % 2 === 0);
    expect(fMeasure(half, truth)).toBeCloseTo(2 / 3, 6);
    expect(fAtBestLevel(half, truth)).toBeGreaterThan(0.98);
    expect(fMeasure(moved(0.25), truth)).toBe(0);
    expect(fMeasure([], truth)).toBe(0);
  });
});
