import { hitLists, type BeatAnalysis, type CountedBeats } from './analysis';
import type { Bars } from './bars';
import type { Onset } from './onsets';
import { sameBeats, sharedBeats, tempoOfBeats } from './same-beats';

/** What was found in a stretch of music; neighbours overlap. */
export interface Heard<T> {
  /** Seconds. */
  from: number;
  to: number;
  found: T;
}
type HeardStretch = Heard<BeatAnalysis>;

/** A part of a joined reading: which of a stretch's beats it has. */
interface Part {
  reading: CountedBeats;
  first: number;
  /** Not included. */
  end: number;
}

/** The share of beats in an overlap that two readings have in common where one goes on as the other. */
const GOES_ON = 0.5;
/** Of a beat: nothing comes sooner than so after the last where two readings meet that do not agree. */
const LEAST = 0.5;

const within = (beats: readonly number[], from: number, to: number): number[] =>
  beats.filter((beat) => beat >= from && beat < to);

/** How well one reading goes on as another between two moments, 0 to 1. */
function agreement(a: CountedBeats, b: CountedBeats, from: number, to: number): number {
  const [ours, theirs] = [within(a.beats, from, to), within(b.beats, from, to)];
  return ours.length + theirs.length > 0 ? (2 * sharedBeats(ours, theirs).length) / (ours.length + theirs.length) : 0;
}

const steadyOf = ({ found }: HeardStretch): CountedBeats[] => found.readings.filter(({ steady }) => steady);

/** The reading of a neighbour that goes on as this one does; its likeliest where none does, or none leads to it. */
function continued(
  reading: CountedBeats | undefined,
  near: HeardStretch,
  here: HeardStretch,
): CountedBeats | undefined {
  const readings = steadyOf(near);
  if (!reading) return readings[0];
  const [from, to] = [Math.max(near.from, here.from), Math.min(near.to, here.to)];
  const fits = readings.map((one) => agreement(reading, one, from, to));
  const best = fits.indexOf(Math.max(...fits));
  return fits[best]! >= GOES_ON ? readings[best] : readings[0];
}

/** A reading of one stretch and what goes on as it in all others; undefined where there is no steady beat. */
function chainFrom(
  stretches: readonly HeardStretch[],
  at: number,
  reading: CountedBeats,
): (CountedBeats | undefined)[] {
  const chain: (CountedBeats | undefined)[] = stretches.map(() => undefined);
  chain[at] = reading;
  for (let i = at + 1; i < stretches.length; i++) chain[i] = continued(chain[i - 1], stretches[i]!, stretches[i - 1]!);
  for (let i = at - 1; i >= 0; i--) chain[i] = continued(chain[i + 1], stretches[i]!, stretches[i + 1]!);
  return chain;
}

/** Where one reading ends and the next goes on: at a beat they share, the one nearest the middle of where both were heard. */
function meeting(a: CountedBeats, b: CountedBeats, from: number, to: number): { end: number; first: number } {
  const middle = (from + to) / 2;
  const shared = sharedBeats(within(a.beats, from, to), within(b.beats, from, to));
  if (shared.length > 0) {
    const [ours, theirs] = shared.reduce((best, pair) =>
      Math.abs(pair[0] - middle) < Math.abs(best[0] - middle) ? pair : best,
    );
    return { end: a.beats.indexOf(ours) + 1, first: b.beats.indexOf(theirs) + 1 };
  }
  const end = a.beats.filter((beat) => beat < middle).length;
  const soonest = (a.beats[end - 1] ?? -Infinity) + (LEAST * 60) / b.tempo;
  return { end, first: b.beats.filter((beat) => beat < Math.max(middle, soonest)).length };
}

function partsOf(stretches: readonly HeardStretch[], chain: readonly (CountedBeats | undefined)[]): Part[] {
  const parts: Part[] = [];
  chain.forEach((reading, i) => {
    if (!reading) return;
    const part = { reading, first: 0, end: reading.beats.length };
    const before = chain[i - 1];
    if (before) {
      const met = meeting(before, reading, stretches[i]!.from, stretches[i - 1]!.to);
      parts.at(-1)!.end = Math.max(parts.at(-1)!.first, met.end);
      part.first = met.first;
    }
    parts.push(part);
  });
  return parts;
}

/** How all beats make bars: what was heard in each part, counted by how many beats it has. */
function barsOf(parts: readonly Part[]): Bars[] {
  const sums = new Map<string, Bars>();
  let before = 0;
  let all = 0;
  for (const { reading, first, end } of parts) {
    for (const bars of reading.bars) {
      const shifted = bars.first - first + before;
      const phase = ((shifted % bars.beats) + bars.beats) % bars.beats;
      const key = `${bars.beats} ${phase}`;
      const sum = sums.get(key) ?? { beats: bars.beats, first: phase, score: 0 };
      sums.set(key, { ...sum, score: sum.score + bars.score * (end - first) });
    }
    before += end - first;
    all += end - first;
  }
  return [...sums.values()].map((bars) => ({ ...bars, score: bars.score / all })).sort((a, b) => b.score - a.score);
}

function joinedReading(parts: readonly Part[]): CountedBeats {
  const all = parts.reduce((sum, { first, end }) => sum + end - first, 0);
  const beats = parts.flatMap(({ reading, first, end }) => reading.beats.slice(first, end));
  return {
    beats,
    strengths: parts.flatMap(({ reading, first, end }) => reading.strengths.slice(first, end)),
    tempo: tempoOfBeats(beats),
    score: parts.reduce((sum, { reading, first, end }) => sum + reading.score * (end - first), 0) / all,
    steady: true,
    bars: barsOf(parts),
  };
}

function joinedReadings(stretches: readonly HeardStretch[]): CountedBeats[] {
  const best = (stretch: HeardStretch): number => steadyOf(stretch)[0]?.score ?? -Infinity;
  const seed = stretches.reduce((top, stretch, i) => (best(stretch) > best(stretches[top]!) ? i : top), 0);
  const ways = steadyOf(stretches[seed]!).map((reading) =>
    joinedReading(partsOf(stretches, chainFrom(stretches, seed, reading))),
  );
  const apart: CountedBeats[] = [];
  for (const way of ways.sort((a, b) => b.score - a.score)) {
    if (!apart.some(({ beats }) => sameBeats(way.beats, beats))) apart.push(way);
  }
  return apart;
}

/** Onsets that were found in stretches, each of them once. */
export function joinOnsets<T>(stretches: readonly Heard<T>[], onsetsOf: (found: T) => readonly Onset[]): Onset[] {
  const seam = (i: number): number =>
    i <= 0 ? -Infinity : i >= stretches.length ? Infinity : (stretches[i]!.from + stretches[i - 1]!.to) / 2;
  return stretches.flatMap(({ found }, i) =>
    onsetsOf(found).filter(({ time }) => time >= seam(i) && time < seam(i + 1)),
  );
}

/**
 * What was heard in stretches as if it had been heard in one. A reading goes on in the next stretch as the one that has the same
 * beats where both were heard, and where a stretch has no steady beat (talk, silence) it has none there.
 *
 * How strong a hit is, is told beside the strongest of its stretch.
 *
 * @param stretches at least one, in order, neighbours overlapping
 */
export function joinStretches(stretches: readonly HeardStretch[]): BeatAnalysis {
  if (stretches.length === 1) return stretches[0]!.found;
  const onsets = hitLists.map((list) => [list, joinOnsets(stretches, (found) => found.onsets[list])]);
  return { readings: joinedReadings(stretches), onsets: Object.fromEntries(onsets) as BeatAnalysis['onsets'] };
}
