import type { OnsetEnvelope } from './envelope';
import { judgeBeats } from './judge';
import { combined } from './onsets';
import { FASTEST, SLOWEST, tempoOver } from './tempo';
import { trackBeats } from './track';

/** One way to count a piece of music. */
interface BeatReading {
  /** Seconds from one beat to the next beside those of the tempo that was heard first: 2 is half as fast. */
  ratio: number;
  /** Seconds of each beat, in order. */
  beats: number[];
  /** How well it fits beside the others. */
  score: number;
}

/** Tempi that are mistaken for one another: twice and half, three against two, three and a third. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3];

/**
 * The ways to count a piece of music, the likeliest first. Each is followed through the whole piece, and all are judged by one
 * score: which hits lie on a beat and which between says more about the level than the tempo alone.
 */
export function findBeats(envelope: OnsetEnvelope): BeatReading[] {
  const values = combined(envelope);
  const heard = tempoOver(envelope);
  return RATIOS.flatMap((ratio) => {
    const tempo = heard.map(({ time, period }) => ({ time, period: period * ratio }));
    if (tempo.some(({ period }) => period < FASTEST || period > SLOWEST)) return [];
    const beats = trackBeats(values, envelope.rate, envelope.start, tempo);
    return [{ ratio, beats, score: judgeBeats(envelope, beats) }];
  }).sort((a, b) => b.score - a.score);
}
