import { onsetsOfPieces, type PiecedEnvelope } from '../beats/analyse-beats';
import { apart } from '../beats/apart';
import { mean, median } from '../beats/mean';
import type { Motion } from './motion';

/** What happens: much motion, its sudden start or stop, a turn of what moves, a hard cut, or a hit in the clip's own sound. */
export const momentKinds = ['motion', 'start', 'stop', 'turn', 'cut', 'hit'] as const;
export type MomentKind = (typeof momentKinds)[number];

/** Something that happens in a clip. */
export interface FoundMoment {
  /** Frame of the file (real; a hit lies between frames too). */
  frame: number;
  kind: MomentKind;
  /** 0 to 1; how plain it is beside others of its kind. */
  strength: number;
}

/** Strength below which a moment is not offered unless weaker ones are asked for. */
export const PLAIN_MOMENT = 0.35;

/** Seconds that are compared before and after a frame for a start, a stop or a turn; at least so many frames. */
const REACH = 0.1;
const LEAST_REACH = 2;
/** Seconds from one moment of a kind to the next at least. */
const APART = 0.5;
/** A cut changes so many times more than its neighbours, and this much of the picture. */
const CUT_RATIO = 4;
const CUT_CHANGE = 0.25;
/** A start has so many times more motion after it than before, a stop the other way. */
const SUDDEN = 4;
/** Motion stands out that is so many times what is usual. */
const MUCH = 3;
/** Small pixels a frame that something moves at least before and after a turn, and the share of the most motion that there is. */
const TURNS = 0.35;
const TURNS_MUCH = 0.3;
/** Times what is usual around it that a hit in sound stands out, and seconds from one to the next. */
const HIT_STANDS_OUT = 4;
const HITS_APART = 0.02;
/** Seconds at the beginning in which sound that is switched on is no hit. */
const SWITCHED_ON = 0.05;

/** Moments of the picture, in order; see `momentKinds`. `rate` is frames a second. */
export function pictureMoments(motion: Motion, rate: number): FoundMoment[] {
  const cuts = cutsIn(motion);
  const isCut = new Set(cuts.map(({ frame }) => frame));
  // What a cut changes is no motion.
  const uncut = motion.energy.map((value, at) => (isCut.has(at) ? (motion.energy[at - 1] ?? 0) : value));
  // A picture that was coded anew changes for one frame, though nothing moves.
  const energy = uncut.map((value, at) => median([uncut[at - 1] ?? value, value, uncut[at + 1] ?? value]));
  const reach = Math.max(LEAST_REACH, Math.round(REACH * rate));
  const gap = Math.max(1, Math.round(APART * rate));
  return [
    ...cuts,
    ...suddenIn(energy, reach, gap),
    ...peaksIn(energy, reach, gap),
    ...turnsIn(motion, isCut, reach, gap),
  ].sort((a, b) => a.frame - b.frame);
}

/** Hits in a clip's own sound as moments. @param rate frames a second */
export async function soundMoments(envelope: PiecedEnvelope, rate: number): Promise<FoundMoment[]> {
  const hits = { sensitivity: 0.9, leastGap: HITS_APART, standsOut: HIT_STANDS_OUT };
  return (await onsetsOfPieces(envelope, hits))
    .filter(({ time }) => time > SWITCHED_ON)
    .map(({ time, strength }) => ({ frame: time * rate, kind: 'hit' as const, strength: Math.cbrt(strength) }));
}

function cutsIn({ energy, change }: Motion): FoundMoment[] {
  const found: FoundMoment[] = [];
  for (let at = 1; at < energy.length; at++) {
    const beside = Math.max(energy[at - 1]!, energy[at + 1] ?? 0, 0.5);
    if (energy[at]! < CUT_RATIO * beside || change[at]! < CUT_CHANGE) continue;
    found.push({ frame: at, kind: 'cut', strength: Math.min(1, change[at]! / 0.6) });
  }
  return found;
}

const apartBy = (moments: readonly FoundMoment[], gap: number): FoundMoment[] =>
  apart(moments, ({ frame }) => frame, gap);

function suddenIn(energy: Float32Array, reach: number, gap: number): FoundMoment[] {
  const loudest = energy.reduce((most, value) => Math.max(most, value), 0);
  if (!(loudest > 0)) return [];
  // So little is no motion.
  const least = 0.02 * loudest;
  const found: Record<'start' | 'stop', FoundMoment[]> = { start: [], stop: [] };
  for (let at = reach; at + reach <= energy.length; at++) {
    const before = mean(energy.subarray(at - reach, at)) + least;
    const after = mean(energy.subarray(at, at + reach)) + least;
    const ratio = after / before;
    const plain = (times: number): number => Math.min(1, Math.log(times) / Math.log(SUDDEN ** 3));
    if (ratio >= SUDDEN) found.start.push({ frame: at, kind: 'start', strength: plain(ratio) });
    else if (1 / ratio >= SUDDEN) found.stop.push({ frame: at, kind: 'stop', strength: plain(1 / ratio) });
  }
  return [...apartBy(found.start, gap), ...apartBy(found.stop, gap)];
}

function peaksIn(energy: Float32Array, reach: number, gap: number): FoundMoment[] {
  const moving = Array.from(energy).filter((value) => value > 0);
  if (moving.length === 0) return [];
  const usual = median(moving);
  const loudest = energy.reduce((most, value) => Math.max(most, value), 0);
  const found: FoundMoment[] = [];
  energy.forEach((value, at) => {
    if (value < MUCH * usual) return;
    const around = energy.subarray(Math.max(0, at - reach), at + reach + 1);
    if (around.some((other) => other > value)) return;
    found.push({ frame: at, kind: 'motion', strength: value / loudest });
  });
  return apartBy(found, gap);
}

function turnsIn(
  { right, down, energy }: Motion,
  isCut: ReadonlySet<number>,
  reach: number,
  gap: number,
): FoundMoment[] {
  const found: FoundMoment[] = [];
  const loudest = energy.reduce((most, value, at) => (isCut.has(at) ? most : Math.max(most, value)), 0);
  const moves = (from: number, to: number): boolean => mean(energy.subarray(from, to)) >= TURNS_MUCH * loudest;
  const weighted = (row: Float32Array, from: number, to: number): number => {
    let [sum, weight] = [0, 0];
    for (let at = from; at < to; at++) {
      if (isCut.has(at)) return 0;
      sum += row[at]! * energy[at]!;
      weight += energy[at]!;
    }
    return weight > 0 ? sum / weight : 0;
  };
  for (let at = reach; at + reach <= energy.length; at++) {
    if (!moves(at - reach, at) || !moves(at, at + reach)) continue;
    for (const row of [right, down]) {
      const [before, after] = [weighted(row, at - reach, at), weighted(row, at, at + reach)];
      const least = Math.min(Math.abs(before), Math.abs(after));
      if (before * after >= 0 || least < TURNS) continue;
      found.push({ frame: at, kind: 'turn', strength: Math.min(1, least / (6 * TURNS)) });
    }
  }
  return apartBy(found, gap);
}
