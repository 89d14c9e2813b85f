import { setsOf, type SeenMarker } from '@hastig/core';
import { choiceField, type ChoiceSpec } from '../form/specs';
import { setName } from './beat-words';

/**
 * A choice of one of the sets that markers belong to: at first the one that is worked with, or else the one with the most markers.
 *
 * @param more further options, after the sets
 */
export function setField(
  markers: readonly SeenMarker[],
  markerSet: string | null,
  more: readonly { value: string; label: string }[] = [],
): ChoiceSpec {
  const sets = setsOf(markers);
  const count = (set: string): number => markers.filter(({ marker }) => (marker.set ?? '') === set).length;
  const largest = sets.reduce((best, set) => (count(set) > count(best) ? set : best), sets[0] ?? '');
  return choiceField('Markers', markerSet !== null && sets.includes(markerSet) ? markerSet : largest, [
    ...sets.map((set) => ({ value: set, label: setName(set) })),
    ...more,
  ]);
}
