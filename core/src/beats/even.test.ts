import { hitLists } from './analysis';
import { EnvelopeMaker, type OnsetBand } from './envelope';
import { evenBeats } from './even';
import { findOnsets, type Onset } from './onsets';
import { hat, kick, sound } from './test-songs';

const RATE = 44_100;

/** Beats from a tempo that may change from one to the next. */
function beatsAt(count: number, tempo: (beat: number) => number): number[] {
  const beats = [0.4];
  while (beats.length < count) beats.push(beats.at(-1)! + 60 / tempo(beats.length - 1));
  return beats;
}

/** What is heard of kicks and hats in turn, and of a hat between now and then. */
function heard(beats: readonly number[]): Record<OnsetBand | 'all', Onset[]> {
  const hits = beats.flatMap((at, i) => [
    { at, hit: i % 2 === 0 ? kick : hat },
    ...(i % 4 === 1 ? [{ at: at + ((beats[i + 1] ?? at + 0.5) - at) / 2, hit: hat }] : []),
  ]);
  const maker = new EnvelopeMaker(RATE);
  maker.push(sound(RATE, beats.at(-1)! + 1, hits));
  const envelope = maker.envelope();
  return Object.fromEntries(
    hitLists.map((list) => [list, findOnsets(envelope, { ...(list !== 'all' && { band: list }), sensitivity: 0.85 })]),
  ) as Record<OnsetBand | 'all', Onset[]>;
}

/** Beats as they are found: each a little off, always by the same numbers. */
const trembling = (beats: readonly number[], by: number): number[] =>
  beats.map((beat, i) => beat + by * Math.sin(i * 12.9898));

const worst = (found: readonly number[], truth: readonly number[]): number =>
  Math.max(...truth.map((at, i) => Math.abs(at - found[i]!)));

it.each([
  [4, 127.33],
  [1, 125],
])('%d min at %d beats a minute lie within a millisecond from first to last', (minutes, tempo) => {
  const truth = beatsAt(Math.floor(minutes * tempo), () => tempo);
  const even = evenBeats(trembling(truth, 0.005), heard(truth))!;
  expect(even.beats).toHaveLength(truth.length);
  expect(worst(even.beats, truth)).toBeLessThan(0.001);
  expect(even.tempi).toHaveLength(1);
  expect(even.tempi[0]).toBeCloseTo(tempo, 3);
});

it('two tempi with a marked change are two', () => {
  const truth = beatsAt(100, (beat) => (beat < 50 ? 100 : 132));
  const even = evenBeats(trembling(truth, 0.004), heard(truth))!;
  expect(even.tempi.map((tempo) => Math.round(tempo * 100) / 100)).toEqual([100, 132]);
  expect(even.beats).toHaveLength(truth.length);
  expect(worst(even.beats, truth)).toBeLessThan(0.002);
});

it('a beat that was found far off, or twice, does not move the others', () => {
  const truth = beatsAt(80, () => 110);
  const found = truth.map((beat, i) => (i % 20 === 7 ? beat + 0.06 : beat));
  found.splice(30, 0, (truth[29]! + truth[30]!) / 2);
  const even = evenBeats(found, heard(truth))!;
  expect(even.beats).toHaveLength(truth.length);
  expect(worst(even.beats, truth)).toBeLessThan(0.001);
});

it('a pause stays one, also where what follows goes on as if there were none', () => {
  const truth = beatsAt(100, () => 120).filter((_, i) => i < 40 || i >= 70);
  const even = evenBeats(trembling(truth, 0.004), heard(truth))!;
  expect(even.beats).toHaveLength(truth.length);
  expect(worst(even.beats, truth)).toBeLessThan(0.001);
  // A few beats after a pause are too few to be a stretch, and are no reason to fill it.
  const short = truth.slice(0, 43);
  expect(evenBeats(short, heard(short))!.beats.filter((at) => at > truth[39]! + 0.1 && at < truth[40]! - 0.1)).toEqual(
    [],
  );
});

it('what is played by people is not even: a tempo that drifts, beats that tremble, few beats', () => {
  const drifting = beatsAt(50, (beat) => 108 + (18 * beat) / 50);
  expect(evenBeats(drifting, heard(drifting))).toBeUndefined();
  const truth = beatsAt(40, () => 110);
  const loose = trembling(truth, 0.022);
  expect(evenBeats(loose, heard(loose))).toBeUndefined();
  expect(evenBeats(truth.slice(0, 5), heard(truth))).toBeUndefined();
  expect(evenBeats([], heard(truth))).toBeUndefined();
});
