import { MOST_SAMPLES, MOST_SHUTTER, SMOOTHED_OVER, type Rate } from '@hastig/contract';
import { parseRate, parseSpeed } from '@hastig/core';
import { InvalidArgumentError } from 'commander';
import { boxOf } from './track-table';
import { trailOf } from './trail';

/** Words of the command line as what they stand for. Each throws InvalidArgumentError with what is expected. */

/** Cents, up or down. */
export function parsedCents(text: string): number {
  const cents = Number(text);
  if (text.trim() === '' || !(Math.abs(cents) <= 4800)) throw new InvalidArgumentError('Cents from -4800 to 4800.');
  return cents;
}

/** A speed as people write it: 50%, 0.5. */
export function parsedSpeed(text: string): number {
  const parsed = parseSpeed(text);
  if (!parsed.ok) throw new InvalidArgumentError('A speed such as 50% or 0.5.');
  return parsed.value;
}

export function collectedSpeed(text: string, before: number[] = []): number[] {
  return [...before, parsedSpeed(text)];
}

export function parsedFrames(text: string): number {
  const frames = Number(text);
  if (!(frames >= 0) || text.trim() === '') throw new InvalidArgumentError('A number of frames.');
  return frames;
}

export function parsedCount(text: string): number {
  if (!/^[1-9]\d*$/.test(text)) throw new InvalidArgumentError('A whole number of at least 1.');
  return Number(text);
}

export function parsedShutter(text: string): number {
  const degrees = Number(text);
  if (!(degrees >= 0 && degrees <= MOST_SHUTTER) || text.trim() === '')
    throw new InvalidArgumentError(`Degrees from 0 to ${MOST_SHUTTER}.`);
  return degrees;
}

/** What a parser makes of a word; what is wrong with it is told as the command line tells it. */
const orRefused =
  <T>(parse: (text: string) => T) =>
  (text: string): T => {
    try {
      return parse(text);
    } catch (error) {
      throw new InvalidArgumentError(`${(error as Error).message}.`);
    }
  };

export const parsedBox = orRefused(boxOf);
export const parsedTrail = orRefused(trailOf);

export function parsedSamples(text: string): number | 'auto' {
  if (text === 'auto') return 'auto';
  const count = parsedCount(text);
  if (count > MOST_SAMPLES) throw new InvalidArgumentError(`auto, or a whole number from 1 to ${MOST_SAMPLES}.`);
  return count;
}

/** Seconds over which a camera's movement is smoothed; `tripod` for none of it left. */
export function parsedSmooth(text: string): number | 'tripod' {
  const seconds = Number(text);
  const { least, most } = SMOOTHED_OVER;
  if (text === 'tripod') return text;
  if (!(seconds >= least && seconds <= most)) throw new InvalidArgumentError(`tripod, or ${least} to ${most} seconds.`);
  return seconds;
}

/** A frame of a source, counted from 0. */
export function parsedFrame(text: string): number {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('A whole number; 0 is the first frame.');
  return Number(text);
}

/** A track as people count them, from 1. */
export function parsedTrack(text: string): number {
  if (!/^[1-9]\d*$/.test(text)) throw new InvalidArgumentError('A number; 1 is the first.');
  return Number(text);
}

/** A rate as it is written in film and television: 25, 29.97, 30000/1001. */
export function parsedRate(text: string): Rate {
  const rate = parseRate(text);
  if (!rate) throw new InvalidArgumentError('Frames per second, such as 30, 29.97 or 30000/1001.');
  return rate;
}
