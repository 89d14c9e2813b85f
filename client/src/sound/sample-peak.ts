import type { Peak } from '@hastig/core';
import type { SampleStretch } from './use-samples';

/**
 * The lowest and the highest value between two samples (real, in either order): of those between them, and of the straight line
 * through the nearest where there is none. Undefined where they are not all there.
 */
export function samplePeak({ first, samples }: SampleStretch, from: number, to: number): Peak | undefined {
  const [a, b] = [Math.min(from, to) - first, Math.max(from, to) - first];
  if (a < 0 || Math.ceil(b) >= samples.length) return undefined;
  const [start, end] = [lineAt(samples, a), lineAt(samples, b)];
  let [low, high] = [Math.min(start, end), Math.max(start, end)];
  for (let index = Math.ceil(a); index <= Math.floor(b); index++) {
    low = Math.min(low, samples[index]!);
    high = Math.max(high, samples[index]!);
  }
  return { low, high };
}

function lineAt(samples: Float32Array, at: number): number {
  const index = Math.floor(at);
  return samples[index]! + (at - index) * ((samples[index + 1] ?? 0) - samples[index]!);
}
