import { candidatesOf } from './candidates';
import type { OnsetEnvelope } from './envelope';
import { doubled, everyNth, halfBeatLater } from './marks';
import { beatsJudge } from './beats-judge';
import { beatGate } from './beat-gate';
import { gateScore, likelihoods } from './network';
import { sameBeats, tempoOfBeats } from './same-beats';

/** One way to count a piece of music. */
export interface BeatReading {
  /** Seconds of each beat, in order. */
  beats: number[];
  /** Beats per minute, of most of it. */
  tempo: number;
  /** How likely it is the right one beside the others, 0 to 1. */
  score: number;
  /** Whether there is a beat at all that is to be trusted. */
  steady: boolean;
}

/** What speaks for a beat at least where there is one: between the most of talk, noise and hits at random, and the least of music. */
const LEAST = -1.7;

/** Ways to count a piece of music that are offered at most. */
const MOST_READINGS = 6;

/** Of two that have so many beats in common the one that lies more exactly on hits is told. */
const ALIKE = 0.93;

/** Half, twice as many, and half a beat later: what is asked for where the level or the phase is not the one that is meant. */
const besides = (beats: readonly number[]): number[][] => [
  everyNth(beats, 2, 0),
  everyNth(beats, 2, 1),
  doubled(beats),
  halfBeatLater(beats),
];

/**
 * The ways to count a piece of music, the likeliest first, those that say the same once. Half, double and off-beat of the first are
 * always among them; a judge that was fitted to music of many styles says how likely each is (`beats-judge.ts`).
 *
 * @param onProgress told what share of the work is done, now and then
 */
export function findBeats(
  envelope: OnsetEnvelope,
  onProgress: (share: number) => void = () => undefined,
): BeatReading[] {
  const candidates = candidatesOf(envelope, (share) => onProgress(0.9 * share));
  const likely = likelihoods(
    beatsJudge,
    candidates.map(({ features }) => features),
  );
  const found: { beats: number[]; score: number; place: number }[] = [];
  const order = candidates.map((_, i) => i).sort((a, b) => likely[b]! - likely[a]!);
  for (const i of order) {
    const { beats } = candidates[i]!;
    const twin = found.find((other) => sameBeats(beats, other.beats));
    // Two that say the same are one, and as likely as both.
    if (!twin) found.push({ beats, score: likely[i]!, place: i });
    else {
      twin.score += likely[i]!;
      // Candidates that lie more exactly on hits come first.
      if (i < twin.place && sameBeats(beats, twin.beats, ALIKE)) Object.assign(twin, { beats, place: i });
    }
  }
  found.sort((a, b) => b.score - a.score);
  const [first] = found;
  if (!first) return [];
  const chosen = order[0]!;
  const steady = gateScore(beatGate, beatsJudge, candidates[chosen]!.features, likely[chosen]!) >= LEAST;
  const offered = [first];
  for (const beats of besides(first.beats)) {
    if (beats.length <= 4 || offered.some((other) => sameBeats(beats, other.beats))) continue;
    offered.push(found.find((other) => sameBeats(beats, other.beats)) ?? { beats, score: 0, place: Infinity });
  }
  for (const one of found) if (offered.length < MOST_READINGS && !offered.includes(one)) offered.push(one);
  return offered
    .sort((a, b) => b.score - a.score)
    .map(({ beats, score }) => ({
      beats,
      score,
      tempo: tempoOfBeats(beats),
      steady,
    }));
}
