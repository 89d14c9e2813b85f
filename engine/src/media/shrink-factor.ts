import type { Size } from '@hastig/core';

const MOST_FACTOR = 16;

/**
 * By which whole factor a picture may be made smaller and still be as large as it is shown.
 *
 * @param fit pixels it is shown in, as large as it fits; null for as large as it is
 */
export function shrinkFactor({ width, height }: Size, fit: Size | null): number {
  if (!fit) return 1;
  const factor = Math.floor(Math.max(width / fit.width, height / fit.height) + 1e-6);
  return Math.min(MOST_FACTOR, Math.max(1, factor));
}
