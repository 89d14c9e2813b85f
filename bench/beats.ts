import { ONSETS_PIECE_HOPS } from '@hastig/contract';
import { analyseBeats, EnvelopeMaker, envelopeBytes, findBeats, readEnvelope } from '@hastig/core';
import { fAtBestLevel, fMeasure, songs, sound } from '@hastig/core/test/songs';
import { drumLoops } from '@hastig/core/test/loops';
import { pieces } from '@hastig/demo';
import { leftOutFigures } from '@hastig/fit/left-out';
import { askedPieces } from '@hastig/fit/questions';
import MusicTempo from 'music-tempo';
import { installPackage } from '../scripts/debian';
import { line } from './line';

interface Piece {
  name: string;
  rate: number;
  samples: Float32Array;
  beats: readonly number[];
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

function made(): Piece[] {
  const demo = Object.entries(pieces).map(([name, { beats, sound: play }]) => {
    const [left, right] = play();
    return { name: `demo: ${name}`, rate: 48_000, samples: left.map((value, i) => (value + right[i]!) / 2), beats };
  });
  const rate = 44_100;
  return [
    ...songs.map(({ name, beats, seconds, hits }) => ({ name, rate, samples: sound(rate, seconds, hits), beats })),
    ...demo,
  ];
}

/** Loops of played drums, where they can be had. */
function played(): Piece[] {
  try {
    for (const name of ['sonic-pi-samples', 'flac']) if (drumLoops(1).length === 0) installPackage(name);
  } catch (error) {
    line('played drums', (error as Error).message);
  }
  return drumLoops(40).map((loop) => ({ ...loop, name: `drums: ${loop.name}` }));
}

const ours = ({ samples, rate }: Piece): number[] => {
  const maker = new EnvelopeMaker(rate);
  maker.push(samples);
  return findBeats(maker.envelope())[0]?.beats ?? [];
};

// The reference hears 44100 samples a second, whatever they are.
function reference({ samples, rate }: Piece): number[] {
  try {
    const { beats } = new MusicTempo(samples);
    return beats.map((beat) => (beat * 44_100) / rate);
  } catch {
    return [];
  }
}

/** Milliseconds by which found beats lie behind the true ones near them, the middle one of all. */
function bias(found: readonly number[], truth: readonly number[]): number {
  const off = truth
    .flatMap((at) => found.map((beat) => beat - at).filter((by) => Math.abs(by) < 0.07))
    .sort((a, b) => a - b);
  return off.length > 0 ? 1000 * off[off.length >> 1]! : NaN;
}

/** How well beats are found: ours beside the package `music-tempo`, at the level found and at the best one. */
function benchFound(kind: string, all: readonly Piece[]): void {
  const rows = all.map((piece) => {
    const [mine, theirs] = [ours(piece), reference(piece)];
    const of = (beats: readonly number[]) => [fMeasure(beats, piece.beats), fAtBestLevel(beats, piece.beats)] as const;
    const [a, b] = [of(mine), of(theirs)];
    line(
      piece.name,
      `F ${a[0].toFixed(3)} best level ${a[1].toFixed(3)} bias ${bias(mine, piece.beats).toFixed(1)} ms` +
        ` (music-tempo ${b[0].toFixed(3)} ${b[1].toFixed(3)} ${bias(theirs, piece.beats).toFixed(1)} ms)`,
    );
    return { a, b };
  });
  const means = (of: 'a' | 'b'): string =>
    [0, 1].map((level) => mean(rows.map((row) => row[of][level]!)).toFixed(3)).join(' ');
  const other = rows.filter(({ a }) => a[0] < 0.9 && a[1] > 0.9).length;
  line(`${kind}: mean`, `${means('a')} (music-tempo ${means('b')}); at another level: ${other} of ${rows.length}`);
}

/** Heap and buffers in use, bytes. */
const inUse = (): number => {
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
};

/** How long music of hours is searched, and what it holds meanwhile beside what ten minutes do. */
async function benchHours(piece: Piece): Promise<void> {
  const maker = new EnvelopeMaker(piece.rate);
  for (let heard = 0; heard < 90; heard += piece.samples.length / piece.rate) maker.push(piece.samples);
  const { bands, levels, changes } = maker.envelope();
  const first = ({ low, mid, high }: typeof bands) => ({
    low: low.slice(0, ONSETS_PIECE_HOPS),
    mid: mid.slice(0, ONSETS_PIECE_HOPS),
    high: high.slice(0, ONSETS_PIECE_HOPS),
  });
  const bytes = envelopeBytes({
    bands: first(bands),
    levels: first(levels),
    changes: changes.slice(0, ONSETS_PIECE_HOPS),
  });
  for (const count of [8, 132]) {
    const before = inUse();
    let most = before;
    const started = performance.now();
    await analyseBeats({ count, sampleRate: piece.rate, read: () => Promise.resolve(readEnvelope(bytes)) }, () => {
      most = Math.max(most, inUse());
    });
    const took = (performance.now() - started) / 1000;
    line(
      `${Math.round((count * 82) / 60)} min of music`,
      `beats in ${took.toFixed(0)} s, ${((most - before) / 1e6).toFixed(0)} MB`,
    );
  }
}

/** Pieces of each style by which families are compared; the judges that ship were fitted to more. */
const VARIANTS = 4;

/** Styles that were left out of a fit, by family: a smaller fit than the one that ships, made on the spot. */
async function benchStyles(): Promise<void> {
  const asked = await askedPieces(VARIANTS, (words) => console.error(words));
  for (const words of leftOutFigures('beats', asked)) line('styles left out', words);
}

export async function benchBeats(): Promise<void> {
  const synthetic = made();
  benchFound('made', synthetic);
  const drums = played();
  if (drums.length > 0) benchFound('played', drums);
  // Four minutes of music, as they are listened to in a worker.
  const four = synthetic.at(-2)!;
  const samples = new Float32Array(four.rate * 252);
  for (let at = 0; at < samples.length; at += four.samples.length) {
    samples.set(four.samples.subarray(0, samples.length - at), at);
  }
  const started = performance.now();
  const maker = new EnvelopeMaker(four.rate);
  maker.push(samples);
  const listened = performance.now();
  findBeats(maker.envelope());
  const searched = performance.now();
  let sum = 0;
  const reference = performance.now();
  for (let i = 0; i < 20_000_000; i++) sum += Math.sin(i);
  const sines = performance.now() - reference;
  if (!Number.isFinite(sum)) throw new Error('the sines went wrong');
  line(
    '252 s of music',
    `listened to in ${(listened - started).toFixed(0)} ms, beats in ${(searched - listened).toFixed(0)} ms` +
      ` (20 M Math.sin: ${sines.toFixed(0)} ms, ratio ${((searched - started) / sines).toFixed(1)})`,
  );
  await benchHours(four);
  await benchStyles();
}
