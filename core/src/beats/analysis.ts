import { findBars, type Bars } from './bars';
import { onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';
import { findBeats, type BeatReading } from './find-beats';
import { hitStrengths } from './hit-strength';
import type { EvenBeats } from './even';
import { findOnsets, type Onset } from './onsets';

/** A way to count a piece of music, with the ways its beats make bars, likeliest first. */
export interface CountedBeats extends BeatReading {
  bars: Bars[];
  /** How strong the hit on each beat is, 0 to 1. */
  strengths: number[];
  /** The same beats as a machine plays them, where all are explained by one tempo or a few; told of the whole piece only. */
  even?: EvenBeats & Pick<CountedBeats, 'strengths' | 'bars'>;
}

/** What is heard in a piece of music: beats, the likeliest way to count them first, and hits in all bands and in each. */
export interface BeatAnalysis {
  readings: CountedBeats[];
  onsets: Record<OnsetBand | 'all', Onset[]>;
}

/** As sensitive as hits are found; fewer are chosen among them. */
const SENSITIVE = 0.85;

export const hitLists = ['all', ...onsetBands] as const;

/**
 * Finds beats, bars and hits in a stretch of music that is held whole.
 *
 * @param onProgress told what share of the search is done
 */
export function analyseStretch(envelope: OnsetEnvelope, onProgress?: (share: number) => void): BeatAnalysis {
  const readings = findBeats(envelope, onProgress).map((reading) => ({
    ...reading,
    bars: findBars(envelope, reading.beats),
    strengths: hitStrengths(envelope, reading.beats),
  }));
  const all = hitLists.map((list): [OnsetBand | 'all', Onset[]] => [
    list,
    findOnsets(envelope, { ...(list !== 'all' && { band: list }), sensitivity: SENSITIVE }),
  ]);
  return { readings, onsets: Object.fromEntries(all) as BeatAnalysis['onsets'] };
}
