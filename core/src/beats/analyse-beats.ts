import { analyseStretch, type BeatAnalysis, type CountedBeats } from './analysis';
import type { OnsetEnvelope } from './envelope';
import { joinedEnvelope, type EnvelopePiece } from './envelope-file';
import { evenBeats } from './even';
import { joinOnsets, joinStretches, type Heard } from './join-stretches';
import { findOnsets, type Onset, type OnsetChoice } from './onsets';

/** An onset envelope that is kept in pieces. */
export interface PiecedEnvelope {
  /** Pieces, and samples of the sound a second. */
  count: number;
  sampleRate: number;
  /** A piece; asked for in order, and rejected with what reading throws. */
  read(piece: number): Promise<EnvelopePiece>;
}

interface Amounts {
  /** Pieces that are searched at once at most where all are no more. */
  whole: number;
  /** Pieces of a stretch where they are, about. */
  stretch: number;
}

/** A quarter of an hour is searched whole, more in stretches of about ten minutes (a piece is 82 seconds). */
const AMOUNTS: Amounts = { whole: 11, stretch: 8 };

/** First and last piece (not included) of each stretch; neighbours have one piece in common. */
function stretchesOf(count: number, { whole, stretch }: Amounts): [first: number, end: number][] {
  if (count <= whole) return [[0, count]];
  const stretches = Math.ceil((count - 1) / (stretch - 1));
  const at = (i: number): number => Math.round((i * (count - 1)) / stretches);
  return Array.from({ length: stretches }, (_, i) => [at(i), at(i + 1) + 1]);
}

/** What `hear` finds in each stretch, one after the other. Only a stretch is held at a time. */
async function inStretches<T>(
  { sampleRate, count, read }: PiecedEnvelope,
  amounts: Amounts,
  hear: (stretch: OnsetEnvelope, share: (within: number) => number) => T,
): Promise<Heard<T>[]> {
  const all = stretchesOf(count, amounts);
  const heard: Heard<T>[] = [];
  /** The piece that the last stretch ended with, and values before it. */
  let last: EnvelopePiece | undefined;
  let before = 0;
  for (const [index, [first, end]] of all.entries()) {
    const pieces = last ? [last] : [];
    for (let piece = first + pieces.length; piece < end; piece++) pieces.push(await read(piece));
    const stretch = joinedEnvelope(pieces, sampleRate, before);
    const { start, rate, bands } = stretch;
    const found = hear(stretch, (within) => (index + within) / all.length);
    heard.push({ from: start, to: start + bands.low.length / rate, found });
    last = pieces.at(-1);
    before += bands.low.length - (last?.bands.low.length ?? 0);
  }
  return heard;
}

/**
 * Finds beats, bars and hits in music of any length. Only a stretch of it is held at a time, so that an hour takes no more memory
 * than ten minutes do, but for what is found.
 *
 * @param onProgress told what share of the search is done
 */
export async function analyseBeats(
  envelope: PiecedEnvelope,
  onProgress: (share: number) => void = () => undefined,
  amounts = AMOUNTS,
): Promise<BeatAnalysis> {
  const { readings, onsets } = joinStretches(
    await inStretches(envelope, amounts, (stretch, share) =>
      analyseStretch(stretch, (within) => onProgress(share(within))),
    ),
  );
  return { readings: readings.map((reading) => withEven(reading, onsets)), onsets };
}

function withEven(reading: CountedBeats, onsets: BeatAnalysis['onsets']): CountedBeats {
  const even = reading.steady ? evenBeats(reading.beats, onsets) : undefined;
  if (!even) return reading;
  // The first of them may not be the first that was found; which begin bars is told by when they are.
  const bars = reading.bars.map((bar) => {
    const first = nearestTo(even.beats, reading.beats[Math.min(bar.first, reading.beats.length - 1)]!);
    return { ...bar, first: first % bar.beats };
  });
  return { ...reading, even: { ...even, bars, strengths: nearestOf(reading, even.beats) } };
}

const nearestTo = (beats: readonly number[], moment: number): number =>
  beats.reduce((best, beat, i) => (Math.abs(beat - moment) < Math.abs(beats[best]! - moment) ? i : best), 0);

/** How strong the hits on beats are that lie beside others: each as strong as the nearest of those. */
function nearestOf(
  { beats, strengths }: Pick<CountedBeats, 'beats' | 'strengths'>,
  moments: readonly number[],
): number[] {
  let near = 0;
  return moments.map((moment) => {
    while (near + 1 < beats.length && Math.abs(beats[near + 1]! - moment) <= Math.abs(beats[near]! - moment)) near++;
    return strengths[near] ?? 0;
  });
}

/** The onsets of sound of any length, see `findOnsets`; how strong each is, is told beside the strongest within ten minutes. */
export async function onsetsOfPieces(
  envelope: PiecedEnvelope,
  choice: OnsetChoice = {},
  amounts = AMOUNTS,
): Promise<Onset[]> {
  const heard = await inStretches(envelope, amounts, (stretch) => findOnsets(stretch, choice));
  return joinOnsets(heard, (onsets) => onsets);
}
