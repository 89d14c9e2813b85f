import type { Counting, Rate, Source } from '@hastig/contract';
import { fieldsOf } from '../fields';
import { rateToNumber, sameRate } from '../time';

/** What a source's file gives to count: so many frames, so many a second; of its file's, not of their fields. */
interface FileCount {
  rate: Rate;
  frames: number;
  /** At an even rate along the file's time; else each of its frames once. */
  byTime: boolean;
}

type Counted = Pick<Source, 'facts' | 'fields' | 'counting'>;

/** Positions at an even rate in so many seconds: each that begins within them, to within a millionth of a frame. */
export function positionsIn(seconds: number, rate: Rate): number {
  return Math.max(1, Math.ceil(seconds * rateToNumber(rate) - 1e-6));
}

/**
 * How a source's file is counted, with what is suggested filled in. By time needs frames that come at irregular times and
 * facts that say so; each of two fields as a frame of its own goes frame by frame.
 */
export function countingOf(source: Counted): Counting {
  const { varying } = source.facts.video;
  if (!varying || fieldsOf(source).use === 'both' || source.counting?.by === 'frame') return { by: 'frame' };
  return { by: 'time', rate: source.counting?.rate ?? varying.fits[0]!.rate };
}

/** What a source's positions count in its file. Everything that counts a source's frames goes by this. */
export function fileCountOf(source: Counted): FileCount {
  const { rate, frames, seconds, varying } = source.facts.video;
  const counting = countingOf(source);
  if (counting.by === 'frame' || !counting.rate) return { rate: varying?.average ?? rate, frames, byTime: false };
  const fit = varying?.fits.find((one) => sameRate(one.rate, counting.rate!));
  return { rate: counting.rate, frames: fit?.frames ?? positionsIn(seconds, counting.rate), byTime: true };
}
