import { markersBeside, type SeenMarker } from '@hastig/core';
import { useMemo } from 'react';
import type { ChoiceSpec } from '../form/specs';
import { useAppSelector, useSession } from '../store/hooks';
import { setField } from './set-field';

/** What stands for the selected markers in a choice of sets. */
const SELECTED = ':selected';

interface Beside {
  /** The markers that pass while a clip is shown, its own left out, at its output frames. */
  markers: readonly SeenMarker[];
  /** A choice of one of their sets, or of those selected. */
  field(): ChoiceSpec;
  /** Their output frames (real), in order, for what was chosen; each once. */
  times(chosen: string): number[];
  /** The markers themselves. */
  chosen(chosen: string): readonly SeenMarker[];
}

/** The markers beside a clip, as recipes take them. */
export function useBeside(clipId: string): Beside {
  const project = useAppSelector((state) => state.project.document)!;
  const { markerSet, selectedMarkers } = useSession('markerSet', 'selectedMarkers');
  return useMemo(() => {
    const markers = markersBeside(project, clipId).filter((seen) => seen.clipId !== clipId);
    const selected = new Set(selectedMarkers);
    const anySelected = markers.some(({ marker }) => selected.has(marker.id));
    const chosen = (name: string): readonly SeenMarker[] =>
      markers.filter(({ marker }) => (name === SELECTED ? selected.has(marker.id) : (marker.set ?? '') === name));
    return {
      markers,
      field: () => setField(markers, markerSet, anySelected ? [{ value: SELECTED, label: 'Selected' }] : []),
      chosen,
      times: (name) =>
        chosen(name)
          .map(({ at }) => at)
          .filter((at, index, all) => index === 0 || at - all[index - 1]! > 1e-6),
    };
  }, [project, clipId, markerSet, selectedMarkers]);
}
