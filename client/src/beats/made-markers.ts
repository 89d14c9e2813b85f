import type { Marker, MarkerKind, MarkerTone, Source } from '@hastig/contract';
import { secondsPosition, sourceFrames } from '@hastig/core';
import { newId } from '../store/new-id';

/** The tone that markers of a kind are made with. */
export const kindTones: Record<MarkerKind, MarkerTone> = {
  downbeat: 'oak',
  beat: 'slate',
  hit: 'clay',
  moment: 'moss',
  hand: 'plum',
};

/** A moment of a source that becomes a marker. */
export interface MadeMoment {
  /** Seconds of the content. */
  seconds: number;
  kind: MarkerKind;
  strength?: number;
}

/** Markers of a source for moments of it; those outside it are left out. */
export function markersOf(source: Source, moments: readonly MadeMoment[], set: string): Marker[] {
  const frames = sourceFrames(source);
  return moments.flatMap(({ seconds, kind, strength }): Marker[] => {
    const at = secondsPosition(source, seconds);
    if (!(at >= 0 && at <= frames)) return [];
    return [
      {
        id: newId(),
        at,
        name: '',
        tone: kindTones[kind],
        kind,
        ...(set && { set }),
        ...(strength !== undefined && { strength: Math.min(1, Math.max(0, strength)) }),
      },
    ];
  });
}

/**
 * Beats with the first of each bar among them.
 *
 * @param beats seconds
 * @param perBar beats in a bar; 0 for none
 * @param first which of them is the first of a whole bar
 */
export function countedBeats(
  beats: readonly number[],
  perBar: number,
  first: number,
  strengths?: readonly number[],
): MadeMoment[] {
  return beats.map((seconds, index) => ({
    seconds,
    kind: perBar > 0 && (index - first) % perBar === 0 ? 'downbeat' : 'beat',
    ...(strengths && { strength: strengths[index]! }),
  }));
}
