import type { Rate, Trail } from '@hastig/contract';
import { rateToNumber } from '../time';

/** A picture of a trail: so many seconds after the one it belongs to, and how much it counts. */
interface TrailPart {
  /** Seconds of the film; 0 for the picture itself, less than 0 for earlier ones. */
  after: number;
  /** Part of its light that is taken; where parts lie over each other, how much of what is beneath it covers. */
  weight: number;
}

/**
 * The pictures of a trail, the picture itself first, then its copies from the nearest on: copy k stands k times as far away, and
 * counts `decay` to the power of k.
 *
 * @param filmRate by which frames are counted
 */
export function trailParts({ apart, by, copies, decay }: Trail, filmRate: Rate): TrailPart[] {
  const seconds = by === 'seconds' ? apart : apart / rateToNumber(filmRate);
  return Array.from({ length: copies + 1 }, (_, k) => ({
    after: k === 0 ? 0 : -k * seconds,
    weight: decay ** k,
  })).filter(({ weight }) => weight > 0);
}

/**
 * What the pictures of a trail count in a sum of light, of those that are there.
 *
 * `lightest` and `sum`: as they are told. `mean`: so that all together are 1. `over`: each copy lies over those before it, the nearest
 * lowest, and covers what it counts (Porter and Duff, "Compositing Digital Images", 1984: A over B, both opaque): w·A + (1 − w)·B.
 */
export function trailWeights(combine: Trail['combine'], weights: readonly number[]): number[] {
  if (combine === 'mean') {
    const all = weights.reduce((sum, weight) => sum + weight, 0);
    return weights.map((weight) => weight / all);
  }
  if (combine !== 'over') return [...weights];
  const shares: number[] = [];
  let free = 1;
  for (let k = weights.length - 1; k > 0; k--) {
    shares.unshift(free * weights[k]!);
    free *= 1 - weights[k]!;
  }
  return [free, ...shares];
}
