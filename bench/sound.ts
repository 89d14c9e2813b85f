// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../core/src/beats/fft.d.ts" />
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { constantSpan, mapProgram, plainSound, ProgramMix, Voices, type SoundSupply } from '@hastig/core';
import type { RetimeMap, SoundFocus } from '@hastig/contract';
import FFT from 'fft.js';
import { WaveFile } from '../cli/src/wave-file';
import { line } from './line';
import { benchStrokes } from './strokes';
import { centsBetween, toneIn } from '../core/src/sound/test-supply';

const RATE = 48_000;
const SECONDS = 12;
const { cos, sin, PI, exp, log10, hypot } = Math;

/** Three notes that are held, and a knock every half second. */
const chord = (n: number): number =>
  [220, 277.18, 329.63].reduce((sum, hertz) => sum + 0.15 * sin((2 * PI * hertz * n) / RATE), 0);
const knocks = (n: number): number => {
  const since = n % (RATE / 2);
  return 0.6 * exp(-since / 240) * sin(since * since * 0.0009 + since * 0.4);
};

const mapAt = (speed: number): RetimeMap => ({
  sourceRate: { num: 30, den: 1 },
  outputRate: { num: 30, den: 1 },
  sourceFrames: 30 * SECONDS,
  start: 0,
  spans: [constantSpan(speed, (30 * SECONDS) / speed)],
});

interface Made {
  samples: Float32Array;
  /** Seconds. */
  took: number;
}

async function ours(
  sampleAt: (n: number) => number,
  speed: number,
  pitch: 'kept' | 'follows',
  focus: SoundFocus,
): Promise<Made> {
  const program = mapProgram(mapAt(speed), 'made');
  program.tracks[0]!.items[0]!.sound = { ...plainSound, pitch, focus };
  // Made before, so that only what is done with it is measured.
  const made = Float32Array.from({ length: SECONDS * RATE }, (_, n) => sampleAt(n));
  const supply: SoundSupply = {
    ...{ sampleRate: RATE, pictureStart: 0, pictureRate: 30, channels: 2 },
    block: async (start, end) => {
      const out = new Float32Array(end - start);
      const from = Math.max(0, start);
      if (end > from) out.set(made.subarray(from, end), from - start);
      return { start, channels: [out, out] };
    },
  };
  const mix = new ProgramMix(program, async () => supply, new Voices());
  const started = performance.now();
  const { channels } = await mix.read(0, Math.round((SECONDS * RATE) / speed), RATE);
  return { samples: channels![0]!, took: (performance.now() - started) / 1000 };
}

/** What Debian's `rubberband` makes of the same, and how long it takes; undefined where that is not installed. */
async function reference(sampleAt: (n: number) => number, speed: number): Promise<Made | undefined> {
  if (spawnSync('rubberband', ['--version']).error) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'hastig-bench-'));
  try {
    const [source, out] = [join(folder, 'in.wav'), join(folder, 'out.wav')];
    const file = await WaveFile.create(source, 2, RATE);
    await file.add(Buffer.from(Float32Array.from({ length: 2 * SECONDS * RATE }, (_, n) => sampleAt(n >> 1)).buffer));
    await file.close();
    const started = performance.now();
    spawnSync('rubberband', ['-q', '-t', String(1 / speed), source, out]);
    const took = (performance.now() - started) / 1000;
    return { samples: leftOf(readFileSync(out)), took };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The left channel of a WAVE file of floats or 16-bit integers with two channels. */
function leftOf(file: Buffer): Float32Array {
  const bits = file.readUInt16LE(34);
  const from = file.indexOf('data') + 8;
  const bytes = bits / 8;
  const count = Math.floor((file.length - from) / (2 * bytes));
  return Float32Array.from({ length: count }, (_, n) =>
    bits === 32 ? file.readFloatLE(from + 2 * n * bytes) : file.readInt16LE(from + 2 * n * bytes) / 32_768,
  );
}

/** The mean power of a spectrum over a second, bin by bin. */
function spectrum(samples: Float32Array): Float64Array {
  const size = 4096;
  const fft = new FFT(size);
  const out = fft.createComplexArray();
  const powers = new Float64Array(size / 2);
  for (let at = 0; at + size <= samples.length; at += size / 2) {
    fft.realTransform(
      out,
      samples.subarray(at, at + size).map((value, n) => value * (0.5 - 0.5 * cos((2 * PI * n) / size))),
    );
    for (let bin = 0; bin < powers.length; bin++) powers[bin]! += out[2 * bin]! ** 2 + out[2 * bin + 1]! ** 2;
  }
  return powers;
}

/** How far the colour of a held chord is from that of the chord itself: the log-spectral distance, in decibels, down to 60 below its loudest. */
function colourMiss(samples: Float32Array): number {
  const middle = Math.floor(samples.length / 3);
  const [made, asIs] = [
    spectrum(samples.subarray(middle, middle + RATE)),
    spectrum(Float32Array.from({ length: RATE }, (_, n) => chord(n))),
  ];
  const floor = 1e-6 * asIs.reduce((most, power) => Math.max(most, power), 0);
  let sum = 0;
  for (let bin = 1; bin < 400; bin++)
    sum += (10 * log10(Math.max(made[bin]!, floor) / Math.max(asIs[bin]!, floor))) ** 2;
  return Math.sqrt(sum / 399);
}

/** Most cents by which one of the notes is off, in the middle. */
function pitchMiss(samples: Float32Array): number {
  const middle = samples.subarray(samples.length / 3, samples.length / 3 + RATE);
  return Math.max(
    ...[220, 277.18, 329.63].map((hertz) => Math.abs(centsBetween(hertz, toneIn(middle, hertz, RATE).hertz))),
  );
}

/** How much of a knock's energy comes up to 40 ms before it should begin, in decibels below what comes after. */
function smear(samples: Float32Array, speed: number): number {
  let [early, late] = [0, 0];
  for (let at = 1; at < 2 * SECONDS - 1; at++) {
    const begins = Math.round((at * RATE) / 2 / speed);
    for (let n = -1920; n < 1920; n++) {
      const value = samples[begins + n] ?? 0;
      if (n < -48) early += value * value;
      else if (n >= 0) late += value * value;
    }
  }
  return 10 * log10(early / late);
}

const level = (samples: Float32Array): number => hypot(...samples.subarray(RATE, RATE + 4800)) / Math.sqrt(4800);

/** Pitch kept: how fast, how exact, of what colour, and how sharp knocks stay, beside Debian's `rubberband-cli` where it is installed. */
export async function benchSound(): Promise<void> {
  for (const speed of [0.5, 0.25, 2, 4]) {
    const length = SECONDS / speed;
    const tape = await ours(chord, speed, 'follows', 'music');
    const row = (chords: Made, knocked: readonly Made[]): string =>
      [
        `${(length / chords.took).toFixed(1)}× real time`,
        `pitch off by ${pitchMiss(chords.samples).toFixed(2)} cents`,
        `colour by ${colourMiss(chords.samples).toFixed(1)} dB`,
        `level ${(20 * log10(level(chords.samples) / level(tape.samples))).toFixed(1)} dB`,
        `before knocks ${knocked.map(({ samples }) => smear(samples, speed).toFixed(1)).join(' and ')} dB`,
      ].join('; ');
    line(`tape at ×${speed}`, `${(length / tape.took).toFixed(1)}× real time`);
    const knocked = [await ours(knocks, speed, 'kept', 'music'), await ours(knocks, speed, 'kept', 'speech')];
    line(`kept at ×${speed} (music and speech)`, row(await ours(chord, speed, 'kept', 'music'), knocked));
    const [theirs, theirKnocks] = [await reference(chord, speed), await reference(knocks, speed)];
    if (theirs && theirKnocks) line(`rubberband at ×${speed}`, row(theirs, [theirKnocks]));
  }
  await benchStrokes();
}
