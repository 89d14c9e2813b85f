import { EnvelopeMaker } from './envelope';
import { findBeats } from './find-beats';
import { fMeasure, songs, sound, type Song } from './test-songs';

const RATE = 44_100;

function readingsOf({ seconds, hits }: Song) {
  const maker = new EnvelopeMaker(RATE);
  maker.push(sound(RATE, seconds, hits));
  return findBeats(maker.envelope());
}

/** The best of beats as they are, every other one, and twice as many. */
function atBestLevel(beats: readonly number[], truth: readonly number[]): number {
  const doubled = beats.flatMap((beat, i) => (i + 1 < beats.length ? [beat, (beat + beats[i + 1]!) / 2] : [beat]));
  const halved = [0, 1].map((odd) => beats.filter((_, i) => i % 2 === odd));
  return Math.max(...[beats, doubled, ...halved].map((one) => fMeasure(one, truth)));
}

const found = songs.map((song) => ({ song, beats: readingsOf(song)[0]!.beats }));
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

it.each(found)('$song.name: the beats are found at one of its levels', ({ song, beats }) => {
  expect(atBestLevel(beats, song.beats)).toBeGreaterThan(0.98);
});

it('most songs are counted as they are meant', () => {
  expect(mean(found.map(({ song, beats }) => fMeasure(beats, song.beats)))).toBeGreaterThan(0.9);
});

it('found beats lie within a few milliseconds of where they are', () => {
  const { song, beats } = found.find((one) => one.song.name.startsWith('rock'))!;
  const off = beats.map((beat) => Math.min(...song.beats.map((truth) => Math.abs(truth - beat))));
  expect(Math.max(...off.slice(4))).toBeLessThan(0.008);
});

it('silence and a moment of sound have no beats that could be wrong', () => {
  const silent = { name: '', beats: [], seconds: 12, hits: [] };
  for (const reading of readingsOf(silent)) expect(reading.score).toBe(0);
  expect(readingsOf({ ...silent, seconds: 0.1 }).every(({ score }) => score === 0)).toBe(true);
});

describe('the measure of found beats', () => {
  const truth = Array.from({ length: 40 }, (_, i) => 5 + i / 2);

  it('is 1 for all of them, 0.67 for half as many, and nothing for none that is near', () => {
    expect(fMeasure(truth, truth)).toBe(1);
    expect(
      fMeasure(
        truth.map((at) => at + 0.06),
        truth,
      ),
    ).toBe(1);
    expect(
      fMeasure(
        truth.filter((_, i) => i % 2 === 0),
        truth,
      ),
    ).toBeCloseTo(2 / 3, 6);
    expect(
      fMeasure(
        truth.map((at) => at + 0.25),
        truth,
      ),
    ).toBe(0);
    expect(fMeasure([], truth)).toBe(0);
  });
});
