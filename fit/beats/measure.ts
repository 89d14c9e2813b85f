import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { EnvelopeMaker, envelopeBytes, joinedEnvelope, readEnvelope, type OnsetEnvelope } from '@hastig/core';
import { barWays, candidatesOf } from '@hastig/core/fit';
import { fAtBestLevel, fMeasure } from '@hastig/core/test/songs';
import MusicTempo from 'music-tempo';
import { kept, writeWhole } from './kept';
import { RATE } from './sound-file';

/** What the judges are told of a piece, and what they should choose. */
export interface Measured {
  /** Readings: what is known of each, and its F-measure as it is and at its best level. */
  readings: { features: number[]; f: number; best: number }[];
  /** Ways of making bars of the true beats: what is known of each, and whether it is the true one. */
  bars: { features: number[]; beats: number; right: boolean }[];
  /** The F-measures of the package `music-tempo` alone. */
  reference: { f: number; best: number };
}

/** A piece whose beats are known. */
export interface KnownPiece {
  samples(): Promise<Float32Array>;
  beats: readonly number[];
  /** Which beat is the first of a whole bar, and how many a bar has, where that is known. */
  first?: number;
  meter?: number;
}

const short = (value: number): number => Math.round(value * 1e4) / 1e4;

async function envelopeOf(file: string, samples: () => Promise<Float32Array>): Promise<OnsetEnvelope> {
  if (!existsSync(file)) {
    const maker = new EnvelopeMaker(RATE);
    maker.push(await samples());
    await writeWhole(file, envelopeBytes(maker.envelope()));
  }
  return joinedEnvelope([readEnvelope(await readFile(file))], RATE);
}

function reference(samples: Float32Array, truth: readonly number[]): Measured['reference'] {
  try {
    const { beats } = new MusicTempo(samples);
    return { f: fMeasure(beats, truth), best: fAtBestLevel(beats, truth) };
  } catch {
    return { f: 0, best: 0 };
  }
}

/**
 * A piece as the judges see it.
 *
 * @param file where its envelope is kept, and what the reference made of it, since these take the most time
 */
export async function measure(piece: KnownPiece, file: string): Promise<Measured> {
  const { beats: truth, first, meter } = piece;
  const envelope = await envelopeOf(`${file}.onsets`, piece.samples);
  return {
    readings: candidatesOf(envelope).map(({ beats, features }) => ({
      features: features.map(short),
      f: short(fMeasure(beats, truth)),
      best: short(fAtBestLevel(beats, truth)),
    })),
    bars:
      first === undefined
        ? []
        : barWays(envelope, truth).map((way) => ({
            features: way.features.map(short),
            beats: way.beats,
            right: way.beats === meter && way.first === first % way.beats,
          })),
    reference: await kept(`${file}.reference`, async () => reference(await piece.samples(), truth)),
  };
}
