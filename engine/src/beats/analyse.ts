import {
  analyseBeats,
  joinedEnvelope,
  readEnvelope,
  type BeatAnalysis,
  type OnsetEnvelope,
  type PiecedEnvelope,
} from '@hastig/core';
import { fetchPiece, fetchPieces } from '../derive/read-pieces';

/** What is asked: the pieces of an onset envelope in order, and how many samples of the sound a second has. */
export interface BeatQuestion {
  addresses: readonly string[];
  sampleRate: number;
}

/** The envelope whose pieces lie at some addresses. Throws what reading them throws. */
export async function readEnvelopeAt({ addresses, sampleRate }: BeatQuestion): Promise<OnsetEnvelope> {
  return joinedEnvelope(await fetchPieces(addresses, readEnvelope), sampleRate);
}

/** The pieces at some addresses, each read when it is asked for. */
export const piecesAt = ({ addresses, sampleRate }: BeatQuestion): PiecedEnvelope => ({
  count: addresses.length,
  sampleRate,
  read: (piece) => fetchPiece(addresses[piece]!, readEnvelope),
});

/** Finds beats, bars and hits, see `analyseBeats`; throws what reading the pieces throws. */
export const analyseBeatsAt = (question: BeatQuestion, onProgress?: (share: number) => void): Promise<BeatAnalysis> =>
  analyseBeats(piecesAt(question), onProgress);
