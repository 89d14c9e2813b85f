import { agentBeats } from './agents';
import type { OnsetEnvelope } from './envelope';
import { judgeBeats } from './judge';
import { halfBeatLater } from './marks';
import { combined } from './onsets';
import { regularityOf, STEADY } from './regularity';
import { sameBeats, tempoOfBeats } from './same-beats';
import { FASTEST, SLOWEST, tempoOver, type TempoPoint } from './tempo';
import { trackBeats } from './track';

/** One way to count a piece of music. */
export interface BeatReading {
  /** Seconds of each beat, in order. */
  beats: number[];
  /** Beats per minute, of most of it. */
  tempo: number;
  /** How well it fits beside the others. */
  score: number;
  /** How alike the sound is from beat to beat, see `regularityOf`. */
  regularity: number;
}

/** Tempi that are mistaken for one another: twice and half, three against two, three and a third. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3];
/** Shares of the work that are done once tempi are known, and once they are followed. */
const LISTENED = 0.3;
const FOLLOWED = 0.6;

/** The tempo of beats from one to the next, as the tracker takes it. */
function tempoOf(beats: readonly number[]): TempoPoint[] {
  return beats.slice(1).map((beat, i) => {
    const near = beats.slice(Math.max(0, i - 3), i + 5);
    return { time: beat, period: (near.at(-1)! - near[0]!) / (near.length - 1) };
  });
}

const scaled = (tempo: readonly TempoPoint[], ratio: number): TempoPoint[] =>
  tempo.map(({ time, period }) => ({ time, period: period * ratio }));

/**
 * The ways to count a piece of music, the likeliest first. Tempi come from the tempo over time and from agents that compete for the
 * onsets, at all ratios that are mistaken for one another; each is followed through the whole piece, also half a beat later, and
 * all are judged by one score: which hits lie on a beat and which between says more about the level than the tempo alone.
 *
 * @param onProgress told what share of the work is done, now and then
 */
export function findBeats(
  envelope: OnsetEnvelope,
  onProgress: (share: number) => void = () => undefined,
): BeatReading[] {
  const values = combined(envelope);
  const heard = tempoOver(envelope);
  const agents = agentBeats(envelope).filter((beats) => beats.length > 4);
  const tempi = [
    ...RATIOS.map((ratio) => scaled(heard, ratio)),
    ...agents.flatMap((beats) => [1, 2, 1 / 2].map((ratio) => scaled(tempoOf(beats), ratio))),
  ].filter((tempo) => tempo.every(({ period }) => period >= FASTEST && period <= SLOWEST));
  const followed = tempi.map((tempo, index) => {
    onProgress(LISTENED + (FOLLOWED - LISTENED) * (index / tempi.length));
    return trackBeats(values, envelope.rate, envelope.start, tempo);
  });
  const found: BeatReading[] = [];
  const ways = [...followed, ...agents].filter((one) => one.length > 4);
  const judged = [...ways, ...ways.map(halfBeatLater)];
  for (const [index, beats] of judged.entries()) {
    onProgress(FOLLOWED + (1 - FOLLOWED) * (index / judged.length));
    const regularity = regularityOf(envelope, beats);
    const score = judgeBeats(envelope, beats, regularity);
    const twin = found.findIndex((other) => sameBeats(beats, other.beats));
    if (twin >= 0 && found[twin]!.score >= score) continue;
    const reading = { beats, score, tempo: tempoOfBeats(beats), regularity };
    if (twin >= 0) found[twin] = reading;
    else found.push(reading);
  }
  return found.sort((a, b) => b.score - a.score);
}

/** Whether music counted so has a beat at all that is to be trusted. */
export function isSteady({ regularity, score }: BeatReading): boolean {
  return score > 0 && regularity >= STEADY;
}
