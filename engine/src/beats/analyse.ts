import {
  findBars,
  findBeats,
  findOnsets,
  hitStrengths,
  isSteady,
  joinedEnvelope,
  onsetBands,
  readEnvelope,
  type Onset,
  type OnsetBand,
  type OnsetEnvelope,
} from '@hastig/core';
import { fetchPieces } from '../derive/read-pieces';
import type { BeatAnalysis } from './analysis';

/** What is asked: the pieces of an onset envelope in order, and how many samples of the sound a second has. */
export interface BeatQuestion {
  addresses: readonly string[];
  sampleRate: number;
}

/** Ways to count a piece of music that are offered at most. */
const MOST_READINGS = 5;
/** As sensitive as hits are found; fewer are chosen among them. */
const SENSITIVE = 0.85;

/** The envelope whose pieces lie at some addresses. Throws what reading them throws. */
export async function readEnvelopeAt({ addresses, sampleRate }: BeatQuestion): Promise<OnsetEnvelope> {
  return joinedEnvelope(await fetchPieces(addresses, readEnvelope), sampleRate);
}

/**
 * Finds beats, bars and hits.
 *
 * @param onProgress told what share of the search is done
 */
export async function analyseBeats(
  question: BeatQuestion,
  onProgress?: (share: number) => void,
): Promise<BeatAnalysis> {
  const envelope = await readEnvelopeAt(question);
  const readings = findBeats(envelope, onProgress)
    .slice(0, MOST_READINGS)
    .map((reading) => ({
      ...reading,
      bars: findBars(envelope, reading.beats),
      steady: isSteady(reading),
      strengths: hitStrengths(envelope, reading.beats),
    }));
  const all: [OnsetBand | 'all', Onset[]][] = [
    ['all', findOnsets(envelope, { sensitivity: SENSITIVE })],
    ...onsetBands.map((band): [OnsetBand, Onset[]] => [band, findOnsets(envelope, { band, sensitivity: SENSITIVE })]),
  ];
  return { readings, onsets: Object.fromEntries(all) as BeatAnalysis['onsets'] };
}
