import { analyseBeats, onsetsOfPieces, type PiecedEnvelope } from './analyse-beats';
import { analyseStretch } from './analysis';
import type { Bars } from './bars';
import { EnvelopeMaker, onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';
import { joinedEnvelope, type EnvelopePiece } from './envelope-file';
import { fMeasure, songs, sound } from './test-songs';

const RATE = 44_100;
const PIECE = 800;

/** Pieces of four seconds, where the real ones are of 82, and which of them are held. */
function cut(envelope: OnsetEnvelope): PiecedEnvelope & { pieces: EnvelopePiece[]; asked: number[] } {
  const count = Math.ceil(envelope.bands.low.length / PIECE);
  const part = (of: OnsetEnvelope['bands'], piece: number) =>
    Object.fromEntries(onsetBands.map((band) => [band, of[band].slice(piece * PIECE, (piece + 1) * PIECE)])) as Record<
      OnsetBand,
      Float32Array
    >;
  const pieces = Array.from({ length: count }, (_, piece) => ({
    bands: part(envelope.bands, piece),
    levels: part(envelope.levels, piece),
    changes: envelope.changes.slice(piece * PIECE, (piece + 1) * PIECE),
  }));
  const asked: number[] = [];
  const read = (piece: number): Promise<EnvelopePiece> => {
    asked.push(piece);
    return Promise.resolve(pieces[piece]!);
  };
  return { count, sampleRate: RATE, pieces, asked, read };
}

/** Stretches of five pieces. */
const SMALL = { whole: 6, stretch: 5 };

function heard(samples: Float32Array): OnsetEnvelope {
  const maker = new EnvelopeMaker(RATE);
  maker.push(samples);
  return maker.envelope();
}

const songNamed = (name: string) => songs.find((song) => song.name.startsWith(name))!;

describe.each(['rock', 'waltz', 'drift'])('%s, heard in stretches', (name) => {
  const song = songNamed(name);
  const envelope = heard(sound(RATE, song.seconds, song.hits));
  const pieced = cut(envelope);
  const whole = analyseStretch(envelope);

  it('has the beats, bars and hits that it has as a whole', async () => {
    const found = await analyseBeats(pieced, undefined, SMALL);
    expect(pieced.count).toBeGreaterThan(SMALL.whole);
    const [best, same] = [found.readings[0]!, whole.readings[0]!];
    expect(fMeasure(best.beats, same.beats)).toBeGreaterThan(0.97);
    expect(best.steady).toBe(true);
    expect(best.strengths).toHaveLength(best.beats.length);
    // No beat is missing and none is there twice where two stretches meet.
    const gaps = best.beats.slice(1).map((beat, i) => beat - best.beats[i]!);
    expect(Math.max(...gaps) * best.tempo).toBeLessThan(60 * 1.4);
    expect(Math.min(...gaps) * best.tempo).toBeGreaterThan(60 * 0.6);
    // Bars that are as likely from either half, as rock's are, may come out the other way round; both ways are told.
    const firstsOf = (beats: readonly number[], { beats: count, first }: Bars): number[] =>
      beats.filter((_, i) => (i - first) % count === 0);
    const expected = same.bars[0]!;
    const theirs = firstsOf(same.beats, expected);
    const alike = best.bars.find((bars) => fMeasure(firstsOf(best.beats, bars), theirs) > 0.9)!;
    expect(alike.beats).toBe(expected.beats);
    const asLikely = expected.score - same.bars[1]!.score < 0.1;
    expect(best.bars.indexOf(alike)).toBeLessThanOrEqual(Number(asLikely));
    const times = (list: readonly { time: number }[]): number[] => list.map(({ time }) => time);
    expect(fMeasure(times(found.onsets.low), times(whole.onsets.low))).toBeGreaterThan(0.95);
  });

  it('each piece is asked for once, in order', async () => {
    pieced.asked.length = 0;
    await onsetsOfPieces(pieced, {}, SMALL);
    expect(pieced.asked).toEqual(Array.from({ length: pieced.count }, (_, piece) => piece));
  });
});

it('two songs with silence between: beats of each, none between, and how far the search is', async () => {
  const [a, b] = [songNamed('rock'), songNamed('waltz')];
  const pause = 25;
  const [first, second] = [sound(RATE, a.seconds, a.hits), sound(RATE, b.seconds, b.hits)];
  const samples = new Float32Array(first.length + pause * RATE + second.length);
  samples.set(first);
  samples.set(second, first.length + pause * RATE);
  const told: number[] = [];
  const found = await analyseBeats(cut(heard(samples)), (share) => told.push(share), SMALL);
  const later = first.length / RATE + pause;
  const { beats } = found.readings[0]!;
  expect(
    fMeasure(
      beats.filter((beat) => beat < a.seconds),
      a.beats,
    ),
  ).toBeGreaterThan(0.9);
  const ofSecond = beats.filter((beat) => beat > later - 1).map((beat) => beat - later);
  expect(fMeasure(ofSecond, b.beats)).toBeGreaterThan(0.9);
  expect(beats.filter((beat) => beat > a.seconds + 6 && beat < later - 6)).toEqual([]);
  expect(told.every((share, i) => share >= (told[i - 1] ?? 0) && share <= 1)).toBe(true);
  expect(told.length).toBeGreaterThan(20);
});

it('what has no beat has none in stretches either', async () => {
  const silence = heard(new Float32Array(RATE * 40));
  const found = await analyseBeats(cut(silence), undefined, SMALL);
  expect(found.readings.filter(({ steady }) => steady)).toEqual([]);
  expect(found.onsets.all).toEqual([]);
  expect(await analyseBeats(cut(heard(new Float32Array(0))), undefined, SMALL)).toMatchObject({ readings: [] });
});

it('a stretch from the middle has its own times', () => {
  const { pieces } = cut(heard(new Float32Array(RATE * 12)));
  const { start, rate } = joinedEnvelope(pieces, RATE);
  expect(joinedEnvelope(pieces.slice(1), RATE, PIECE).start).toBeCloseTo(start + PIECE / rate, 9);
});
