// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../core/src/beats/fft.d.ts" />
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RetimeMap, SoundFocus } from '@hastig/contract';
import { constantSpan, mapProgram, plainSound, ProgramMix, Voices, type SoundSupply } from '@hastig/core';
import { play } from '@hastig/fit/play';
import { drawRecipe } from '@hastig/fit/recipe';
import { RATE, readSound, writeSound } from '@hastig/fit/sound-file';
import { installSet } from '@hastig/fit/set';
import { stylesToFit } from '@hastig/fit/styles';
import { correlation } from '@hastig/core/test/heard';
import FFT from 'fft.js';
import { line } from './line';

const { hypot, log10, max, min, round, sqrt, cos, PI } = Math;

const SECONDS = 12;
/** Every so many styles one is measured: 24 of them are asked for, fewer are quicker. */
const STYLES = 24;
const SPEEDS = [0.5, 0.7, 2] as const;
const WINDOW = 1024;

const mapAt = (speed: number, samples: number): RetimeMap => {
  const frames = round((30 * samples) / RATE);
  return {
    ...{ sourceRate: { num: 30, den: 1 }, outputRate: { num: 30, den: 1 }, sourceFrames: frames, start: 0 },
    spans: [constantSpan(speed, frames / speed)],
  };
};

/** A piece at another speed, its pitch kept, and the seconds that took. */
async function stretched(piece: Float32Array, speed: number, focus: SoundFocus): Promise<[Float32Array, number]> {
  const program = mapProgram(mapAt(speed, piece.length), 'made');
  program.tracks[0]!.items[0]!.sound = { ...plainSound, pitch: 'kept', focus };
  const supply: SoundSupply = {
    ...{ sampleRate: RATE, pictureStart: 0, pictureRate: 30, channels: 1 },
    block: async (start, end) => {
      const out = new Float32Array(end - start);
      const from = max(0, start);
      if (end > from) out.set(piece.subarray(from, end), from - start);
      return { start, channels: [out] };
    },
  };
  const mix = new ProgramMix(program, async () => supply, new Voices());
  const started = performance.now();
  const { channels } = await mix.read(0, round(piece.length / speed), RATE);
  return [channels![0]!, (performance.now() - started) / 1000];
}

/** The same by the finest mode of Debian's `rubberband`. */
async function reference(piece: Float32Array, speed: number): Promise<Float32Array> {
  const folder = mkdtempSync(join(tmpdir(), 'hastig-strokes-'));
  try {
    const [from, to] = [join(folder, 'from.wav'), join(folder, 'to.wav')];
    await writeSound(from, piece);
    spawnSync('rubberband', ['-3', '-q', '-t', String(1 / speed), from, to]);
    return await readSound(to);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const hann = Float64Array.from({ length: WINDOW }, (_, n) => 0.5 - 0.5 * cos((2 * PI * (n + 0.5)) / WINDOW));

/** Magnitudes of a window whose middle is a sample. */
function magnitudes(fft: FFT, samples: Float32Array, middle: number): Float64Array {
  const out = fft.createComplexArray();
  const from = middle - WINDOW / 2;
  fft.realTransform(
    out,
    Array.from(hann, (weight, n) => weight * (samples[from + n] ?? 0)),
  );
  return Float64Array.from({ length: WINDOW / 2 }, (_, bin) => hypot(out[2 * bin]!, out[2 * bin + 1]!));
}

/** The spectral flux, rises only, of windows whose middles lie so many samples apart. */
function fluxOf(samples: Float32Array, hop: number, count: number): Float64Array {
  const fft = new FFT(WINDOW);
  let before = magnitudes(fft, samples, 0);
  return Float64Array.from({ length: count }, (_, i) => {
    const now = magnitudes(fft, samples, round((i + 1) * hop));
    let sum = 0;
    for (let bin = 1; bin < now.length; bin++) sum += max(0, now[bin]! - before[bin]!);
    before = now;
    return sum;
  });
}

/** How far the mean spectra of two sounds are apart: the log-spectral distance, in decibels, down to 60 below the loudest. */
function distance(a: Float32Array, b: Float32Array): number {
  const fft = new FFT(WINDOW);
  const [pa, pb] = [new Float64Array(WINDOW / 2), new Float64Array(WINDOW / 2)];
  for (let middle = WINDOW; middle < min(a.length, b.length) - WINDOW; middle += WINDOW / 2) {
    magnitudes(fft, a, middle).forEach((value, bin) => (pa[bin]! += value * value));
    magnitudes(fft, b, middle).forEach((value, bin) => (pb[bin]! += value * value));
  }
  const floor = 1e-6 * pa.reduce((most, power) => max(most, power), 0);
  let sum = 0;
  for (let bin = 1; bin < pa.length; bin++) sum += (10 * log10(max(pa[bin]!, floor) / max(pb[bin]!, floor))) ** 2;
  return sqrt(sum / (pa.length - 1));
}

/**
 * What becomes of strokes in dense music whose pitch is kept: how alike the pattern of strokes is to that of the original
 * (correlation of spectral flux), and how true the colour after there and back, beside Debian's `rubberband -3`.
 */
export async function benchStrokes(): Promise<void> {
  installSet();
  if (spawnSync('rubberband', ['--version']).error)
    return line('strokes in dense music', 'rubberband-cli is not installed');
  const styles = stylesToFit();
  const chosen = styles.filter(
    (_, i) => Math.floor((i * STYLES) / styles.length) !== Math.floor(((i - 1) * STYLES) / styles.length),
  );
  const pieces: Float32Array[] = [];
  for (const style of chosen) {
    const recipe = {
      ...drawRecipe(style, 0),
      loose: 0,
      course: 'even',
      change: 0,
      through: 'nothing',
      cut: 0,
    } as const;
    pieces.push((await play({ ...recipe, seconds: SECONDS })).samples);
  }
  const mean = (values: readonly number[]): string =>
    (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(3);
  for (const speed of SPEEDS) {
    const rows: Record<'music' | 'speech' | 'theirs', { alike: number[]; colour: number[]; took: number[] }> = {
      music: { alike: [], colour: [], took: [] },
      speech: { alike: [], colour: [], took: [] },
      theirs: { alike: [], colour: [], took: [] },
    };
    for (const piece of pieces) {
      // The shorter hop is 256 samples, on whichever side is shorter.
      const hop = speed < 1 ? 256 : 256 * speed;
      const count = Math.floor(piece.length / hop) - 4;
      const original = fluxOf(piece, hop, count);
      for (const focus of ['music', 'speech'] as const) {
        const [there, took] = await stretched(piece, speed, focus);
        const [back] = await stretched(there, 1 / speed, focus);
        rows[focus].alike.push(correlation(original, fluxOf(there, hop / speed, count)));
        rows[focus].colour.push(distance(piece, back));
        rows[focus].took.push(there.length / RATE / took);
      }
      const theirs = await reference(piece, speed);
      rows.theirs.alike.push(correlation(original, fluxOf(theirs, hop / speed, count)));
      rows.theirs.colour.push(distance(piece, await reference(theirs, 1 / speed)));
    }
    const { music, speech, theirs } = rows;
    line(
      `strokes in ${pieces.length} pieces at ×${speed}`,
      `alike ${mean(music.alike)} music, ${mean(speech.alike)} speech (rubberband -3 ${mean(theirs.alike)}); ` +
        `colour there and back ${mean(music.colour)} and ${mean(speech.colour)} dB (${mean(theirs.colour)}); ` +
        `${mean(music.took)}× and ${mean(speech.took)}× real time`,
    );
  }
}
