import type { BeatAnalysis, FoundMoment, Onset } from '@hastig/core';
import { CommandFailed } from './fail';

const six = (value: number): string => value.toFixed(6);

/**
 * The beats of a piece of music as lines of CSV: seconds, whether it is the first of a bar (1 or 0), how strong the hit on it is.
 *
 * @param asPlayed whether beats lie where they were heard, also where one tempo explains all of them
 * @throws CommandFailed where there is no steady beat
 */
export function beatLines({ readings }: Pick<BeatAnalysis, 'readings'>, asPlayed = false): string[] {
  const [best] = readings;
  if (!best?.steady) {
    throw new CommandFailed('no steady beat found: tap it in the application, or make an even grid');
  }
  const counted = (asPlayed ? undefined : best.even) ?? best;
  const [bars] = counted.bars;
  return [
    'seconds,downbeat,strength',
    ...counted.beats.map((beat, index) => {
      const first = bars && (index - bars.first) % bars.beats === 0;
      return `${six(beat)},${first ? 1 : 0},${six(counted.strengths[index]!)}`;
    }),
  ];
}

/** Hits in sound as lines of CSV: seconds, the band each is strongest in, its strength. */
export function onsetLines(hits: readonly Onset[]): string[] {
  return ['seconds,band,strength', ...hits.map(({ time, band, strength }) => `${six(time)},${band},${six(strength)}`)];
}

/** Moments of a clip as lines of CSV: the frame, rounded down to a whole one, what happens, its strength. */
export function momentLines(moments: readonly FoundMoment[]): string[] {
  return [
    'frame,kind,strength',
    ...moments.map(({ frame, kind, strength }) => `${Math.floor(frame + 1e-6)},${kind},${six(strength)}`),
  ];
}
