import type { Bars, BeatReading, Onset, OnsetBand } from '@hastig/core';

/** A way to count a piece of music, with the ways its beats make bars, likeliest first. */
export interface CountedBeats extends BeatReading {
  bars: Bars[];
  /** Whether it has a steady beat. */
  steady: boolean;
  /** How strong the hit on each beat is, 0 to 1. */
  strengths: number[];
}

/** What is heard in a piece of music: beats, the likeliest way to count them first, and hits in all bands and in each. */
export interface BeatAnalysis {
  readings: CountedBeats[];
  onsets: Record<OnsetBand | 'all', Onset[]>;
}
