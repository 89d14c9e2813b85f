import type { Rate } from '@hastig/contract';
import { rateFromNumber, rateToNumber } from '@hastig/core';
import type { FrameIndex } from './frame-index';

/** Coarsest rounding of times in the containers we read: WebM and Matroska count milliseconds. */
const CONTAINER_ROUNDING = 0.001;

/** A video's rate and whether all its frames keep to it. */
export interface MeasuredRate {
  rate: Rate;
  constant: boolean;
}

/**
 * The rate that a video's frame times stand for.
 *
 * It is taken from the whole length, where rounding matters least; the frame distance that is most common decides
 * nothing, because rounded distances alternate (33, 33, 34 ms).
 */
export function measureRate({ timestamps, lastDuration }: FrameIndex): MeasuredRate {
  const count = timestamps.length;
  const first = timestamps[0] ?? 0;
  if (count < 2) return { rate: rateFromNumber(lastDuration > 0 ? 1 / lastDuration : 25), constant: true };
  const span = timestamps[count - 1]! - first;
  if (!(span > 0)) return { rate: rateFromNumber(25), constant: false };
  const tolerance = Math.min(4e-4, Math.max(1e-6, (1.5 * CONTAINER_ROUNDING) / span));
  const rate = rateFromNumber((count - 1) / span, tolerance);
  const perFrame = 1 / rateToNumber(rate);
  const allowed = Math.min(perFrame / 4, 1.5 * CONTAINER_ROUNDING);
  const constant = timestamps.every((time, frame) => Math.abs(time - first - frame * perFrame) <= allowed);
  return { rate, constant };
}
