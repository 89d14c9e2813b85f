import { MOST_FRAMES, type Rate, type RateFit } from '@hastig/contract';
import { positionsIn, rateFromNumber, rateToNumber, standardRates } from '@hastig/core';
import { lengthOf, positionOfFrame, type FrameIndex } from './frame-index';

/** Coarsest rounding of times in the containers we read: WebM and Matroska count milliseconds. */
const CONTAINER_ROUNDING = 0.001;

/** A video's rate and whether all its frames keep to it. */
interface MeasuredRate {
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

/** How the frames of a video come out at an even rate along its time. */
export function fitOf(index: FrameIndex, rate: Rate): RateFit {
  const frames = positionsIn(lengthOf(index), rate);
  const count = index.timestamps.length;
  let shown = 0;
  let first = positionOfFrame(index, rate, 0);
  for (let frame = 0; frame < count; frame++) {
    const next = frame + 1 < count ? Math.min(frames, positionOfFrame(index, rate, frame + 1)) : frames;
    if (next > first) shown++;
    first = next;
  }
  return { rate, frames, repeated: frames - shown, skipped: count - shown };
}

/**
 * The standard rates as they fit frames at irregular times, the best first: the one at which the fewest frames are shown twice
 * or left out; of several, the one whose frames are as far apart as most of the file's are. None where they would be more
 * than a source may have.
 */
export function rateFits(index: FrameIndex): RateFit[] {
  const gaps = index.timestamps.slice(1).map((time, frame) => time - index.timestamps[frame]!);
  const usual = gaps.sort()[gaps.length >> 1] ?? 0;
  const off = ({ rate }: RateFit): number => Math.abs(rate.den / rate.num - usual);
  const lost = ({ repeated, skipped }: RateFit): number => repeated + skipped;
  return standardRates
    .map((rate) => fitOf(index, rate))
    .filter(({ frames }) => frames <= MOST_FRAMES)
    .sort((a, b) => lost(a) - lost(b) || off(a) - off(b));
}
