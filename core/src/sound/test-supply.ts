import type { SoundSupply } from './run';

const { atan2, cos, floor, hypot, log2, min, round, sin, PI } = Math;

/** Made sound as a source, for tests and benches: samples of each channel where they are asked for. */
export function madeSupply(
  sampleAt: readonly ((n: number) => number)[],
  {
    sampleRate = 48_000,
    pictureRate = 30,
    samples = Infinity,
  }: { sampleRate?: number; pictureRate?: number; samples?: number } = {},
): SoundSupply {
  return {
    sampleRate,
    pictureStart: 0,
    pictureRate,
    channels: sampleAt.length,
    block: async (start, end) => ({
      start,
      channels: sampleAt.map((at) => {
        const out = new Float32Array(end - start);
        for (let n = 0; n < out.length; n++) {
          const index = start + n;
          if (index >= 0 && index < samples) out[n] = at(index);
        }
        return out;
      }),
    }),
  };
}

/** Hertz of a steady tone near an expected one, from how its phase turns between two stretches of samples (Hann-windowed). */
export function toneIn(samples: Float32Array, expected: number, sampleRate: number): { hertz: number; level: number } {
  const count = min(floor(samples.length / 2), sampleRate);
  const phaseAt = (from: number): [phase: number, level: number] => {
    let [re, im] = [0, 0];
    for (let n = 0; n < count; n++) {
      const window = 0.5 - 0.5 * cos((2 * PI * n) / count);
      const angle = (2 * PI * expected * (from + n)) / sampleRate;
      re += window * samples[from + n]! * cos(angle);
      im -= window * samples[from + n]! * sin(angle);
    }
    return [atan2(im, re), (4 * hypot(re, im)) / count];
  };
  // Near enough to one another that the phase has not gone round between.
  const apart = min(samples.length - count, floor(sampleRate / 10));
  const [[a, level], [b]] = [phaseAt(0), phaseAt(apart)];
  const turned = (b - a) / (2 * PI);
  return { hertz: expected + ((turned - round(turned)) * sampleRate) / apart, level };
}

/** Cents from one pitch to another. */
export const centsBetween = (from: number, to: number): number => 1200 * log2(to / from);

/** The first sample by which two stretches differ; −1 where they are the same. Jest's own comparison takes seconds for a few of them. */
export function firstDifference(one: Float32Array, other: Float32Array): number {
  if (one.length !== other.length) return min(one.length, other.length);
  return one.findIndex((value, n) => value !== other[n]);
}
