import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { constantSpan, mapProgram, plainSound, ProgramMix, Voices, type SoundSupply } from '@hastig/core';
import type { RetimeMap, SoundFocus } from '@hastig/contract';
import { WaveFile } from '../cli/src/wave-file';
import { line } from './line';
import { centsBetween, toneIn } from '../core/src/sound/test-supply';

const RATE = 48_000;
const SECONDS = 12;
const { sin, PI, exp, log10, hypot } = Math;

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

async function ours(
  sampleAt: (n: number) => number,
  speed: number,
  pitch: 'kept' | 'follows',
  focus: SoundFocus,
): Promise<{ samples: Float32Array; took: number }> {
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

/** Seconds that Debian's `rubberband` takes for the same; undefined where that is not installed. */
async function reference(sampleAt: (n: number) => number, speed: number): Promise<number | undefined> {
  if (spawnSync('rubberband', ['--version']).error) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'hastig-bench-'));
  try {
    const [source, out] = [join(folder, 'in.wav'), join(folder, 'out.wav')];
    const file = await WaveFile.create(source, 2, RATE);
    await file.add(Buffer.from(Float32Array.from({ length: 2 * SECONDS * RATE }, (_, n) => sampleAt(n >> 1)).buffer));
    await file.close();
    const started = performance.now();
    spawnSync('rubberband', ['-q', '-t', String(1 / speed), source, out]);
    return (performance.now() - started) / 1000;
  } finally {
    rmSync(folder, { recursive: true });
  }
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

/** Pitch kept: how fast, how exact, and how sharp knocks stay, beside tape and the time of Debian's `rubberband-cli` where it is installed. */
export async function benchSound(): Promise<void> {
  for (const speed of [0.5, 0.25, 2]) {
    const tape = await ours(chord, speed, 'follows', 'music');
    const [music, speech] = [await ours(chord, speed, 'kept', 'music'), await ours(knocks, speed, 'kept', 'speech')];
    const knocked = await ours(knocks, speed, 'kept', 'music');
    const beside = await reference(chord, speed);
    const length = SECONDS / speed;
    line(
      `kept at ×${speed}`,
      `${(length / music.took).toFixed(1)}× real time (tape ${(length / tape.took).toFixed(1)}×` +
        `${beside === undefined ? '' : `, rubberband ${(length / beside).toFixed(1)}×`}); ` +
        `pitch off by ${pitchMiss(music.samples).toFixed(2)} cents; ` +
        `level ${(20 * log10(level(music.samples) / level(tape.samples))).toFixed(1)} dB; ` +
        `before knocks ${smear(speech.samples, speed).toFixed(1)} dB for speech, ${smear(knocked.samples, speed).toFixed(1)} for music`,
    );
  }
}
