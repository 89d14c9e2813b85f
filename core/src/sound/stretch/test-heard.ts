import type { RetimeMap, SoundSettings } from '@hastig/contract';
import { mapOf } from '../../../test/maps';
import { constantSpan, mapProgram, plainSound, ProgramMix, Voices, type Program } from '../..';
import { madeSupply } from '../test-supply';

// Looked up once: they run for every sample.
const { sin, sqrt, PI } = Math;

/** Samples a second, of sources and of what is heard. */
export const RATE = 48_000;

/** A program of one clip of one source. */
export const programOfMap = (map: RetimeMap, sound: Partial<SoundSettings>): Program => {
  const program = mapProgram(map, 'a');
  const [track] = program.tracks;
  return { ...program, tracks: [{ ...track!, items: [{ ...track!.items[0]!, sound: { ...plainSound, ...sound } }] }] };
};

export const mixOf = (map: RetimeMap, sound: Partial<SoundSettings>, sampleAt: (n: number) => number): ProgramMix =>
  new ProgramMix(programOfMap(map, sound), async () => madeSupply([sampleAt], { sampleRate: RATE }), new Voices());

/** What is heard of made sound through a map, on the left, from some seconds on. */
export async function heard(
  map: RetimeMap,
  sound: Partial<SoundSettings>,
  sampleAt: (n: number) => number,
  from: number,
  seconds: number,
): Promise<Float32Array> {
  const { channels } = await mixOf(map, sound, sampleAt).read(from * RATE, seconds * RATE, RATE);
  return channels![0]!;
}

export const sine =
  (hertz: number) =>
  (n: number): number =>
    0.5 * sin((2 * PI * hertz * n) / RATE);

/** Ten seconds at one speed. */
export const steady = (speed: number): RetimeMap =>
  mapOf([constantSpan(speed, 300)], { sourceFrames: 10_000, start: speed < 0 ? 3000 : 0 });

/** How alike two rows are, −1 to 1 (Pearson). */
export function correlation(a: Float64Array, b: Float64Array): number {
  const mean = (row: Float64Array): number => row.reduce((sum, value) => sum + value, 0) / row.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    ab += (a[i]! - ma) * (b[i]! - mb);
    aa += (a[i]! - ma) ** 2;
    bb += (b[i]! - mb) ** 2;
  }
  return ab / sqrt(aa * bb);
}
