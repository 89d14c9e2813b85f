import type { Counting, MediaFacts, Rate, RateFit, Source } from '@hastig/contract';
import { fieldsOf } from '../fields';
import type { Size } from '../picture';
import { makeRate, rateToNumber, sameRate } from '../time';

/**
 * What kind of footage a file is: a moving picture, with sound or without; sound alone; one still; or numbered stills, each
 * shown as one frame.
 */
export type FootageKind = 'video' | 'sound' | 'still' | 'stills';

export function kindOf({ video, still }: Pick<MediaFacts, 'video' | 'still'>): FootageKind {
  if (video) return 'video';
  if (!still) return 'sound';
  return still.first === undefined ? 'still' : 'stills';
}

/** Pixels of a picture, and whether it may let through what lies below it. */
export interface PictureSize extends Size {
  alpha?: true;
}

/** Pixels of a file's picture, as displayed; null for sound alone. */
export function pictureOf({ video, still }: Pick<MediaFacts, 'video' | 'still'>): PictureSize | null {
  const picture = video ?? still;
  return picture ? { width: picture.width, height: picture.height, ...(still?.alpha && { alpha: true }) } : null;
}

/** Pictures a second of numbered stills, unless they are read at another rate. */
const STILLS_RATE = makeRate(24);

/** What a source's file gives to count: so many frames, so many a second; of its file's, not of their fields. */
interface FileCount {
  rate: Rate;
  frames: number;
  /** How its frames come to be positions. */
  by: Counting['by'];
}

type Counted = Pick<Source, 'facts' | 'fields' | 'counting'>;

/** Positions at an even rate in so many seconds: each that begins within them, to within a millionth of a frame. */
function positionsIn(seconds: number, rate: Rate): number {
  return Math.max(1, Math.ceil(seconds * rateToNumber(rate) - 1e-6));
}

/**
 * How a source's file is counted, with what is suggested filled in: frames that come at irregular times at the rate that fits best.
 * Facts of before know of positions along the time only. Each of two fields as a frame of its own goes frame by frame.
 */
export function countingOf(source: Counted): Counting {
  const { counting, facts } = source;
  const fits = facts.video?.varying?.fits;
  if (fieldsOf(source).use === 'both' || counting?.by === 'frame') return { by: 'frame' };
  const rate = counting?.rate ?? fits?.[0]!.rate;
  if (!rate) return { by: 'frame' };
  return { by: counting?.by ?? (laysToNearest(facts) ? 'nearest' : 'time'), rate };
}

/** Whether facts know how frames at irregular times come out laid to the nearest position. */
export function laysToNearest({ video }: Pick<MediaFacts, 'video'>): boolean {
  return video?.varying?.fits[0]!.within !== undefined;
}

/** What becomes of frames at irregular times at a rate; undefined where nobody looked. */
export function fitAt({ video }: Pick<MediaFacts, 'video'>, rate: Rate): RateFit | undefined {
  return video?.varying?.fits.find((one) => sameRate(one.rate, rate));
}

/**
 * What a source's positions count in its file: frames of its picture, pictures of stills, samples of sound alone, counted from
 * time 0. Everything that counts a source's positions goes by this.
 */
export function fileCountOf(source: Counted): FileCount {
  const { video, still, audio } = source.facts;
  if (still) return { rate: STILLS_RATE, frames: still.pictures, by: 'frame' };
  if (!video) {
    const { sampleRate, seconds } = audio ?? { sampleRate: 48_000, seconds: 0 };
    return { rate: makeRate(sampleRate), frames: Math.max(1, Math.round(seconds * sampleRate)), by: 'frame' };
  }
  const { rate, frames, seconds, varying } = video;
  const counting = countingOf(source);
  if (counting.by === 'frame' || !counting.rate) return { rate: varying?.average ?? rate, frames, by: 'frame' };
  const fit = counting.by === 'nearest' ? fitAt(source.facts, counting.rate) : undefined;
  return { rate: counting.rate, frames: fit?.frames ?? positionsIn(seconds, counting.rate), by: counting.by };
}
