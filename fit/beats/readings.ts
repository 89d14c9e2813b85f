import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { EnvelopeMaker } from '@hastig/core';
import { candidatesOf } from '@hastig/core/fit';
import { fAtBestLevel, fMeasure } from '@hastig/core/test/songs';

/** What the judge is told of one piece, and what it should have chosen. */
export interface JudgedPiece {
  id: string;
  style: string;
  family: string;
  weight: number;
  features: number[][];
  f: number[];
  best: number[];
  theirs: [as: number, level: number];
}

/** A piece's readings, measured. */
export function measured(samples: Float32Array, rate: number, truth: readonly number[]) {
  const maker = new EnvelopeMaker(rate);
  maker.push(samples);
  const candidates = candidatesOf(maker.envelope());
  return {
    features: candidates.map(({ features }) => features),
    f: candidates.map(({ beats }) => fMeasure(beats, truth)),
    best: candidates.map(({ beats }) => fAtBestLevel(beats, truth)),
  };
}

/** Of a file, or made and written there. */
export async function kept<T>(file: string, make: () => Promise<T>): Promise<T> {
  if (existsSync(file)) return JSON.parse(await readFile(file, 'utf8')) as T;
  const made = await make();
  await writeFile(file, JSON.stringify(made));
  return made;
}
