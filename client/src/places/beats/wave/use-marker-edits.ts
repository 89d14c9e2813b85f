import { removeSourceMarkers, type SeenMarker } from '@hastig/core';
import { contentSeconds, frameOfContent, movedTo, type MusicClip } from '../../../beats/music';
import { snappedTap } from '../../../beats/snap-taps';
import { useStage } from '../../../stage/stage-context';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { markersSelected } from '../../../store/session-slice';
import { useStable } from '../../../ui/use-stable';

/** What is done with markers where they stand. */
export interface MarkerEdits {
  /** Goes there and selects it; or selects one more, or one less. */
  onChoose(marker: SeenMarker, more: boolean): void;
  /** Moves one to a frame (real); near a hit it rests there. */
  onMove(marker: SeenMarker, to: number, snapping: boolean): void;
  onRemove(marker: SeenMarker): void;
}

/** @param hits of the music, which what is moved rests on */
export function useMarkerEdits(music: MusicClip | undefined, hits: readonly { time: number }[]): MarkerEdits {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { selectedMarkers, snap } = useSession('selectedMarkers', 'snap');
  return {
    onChoose: useStable(({ marker, at }: SeenMarker, more: boolean): void => {
      if (!more) {
        seek(Math.floor(at + 1e-6));
        dispatch(markersSelected([marker.id]));
        return;
      }
      const others = selectedMarkers.filter((id) => id !== marker.id);
      dispatch(markersSelected(others.length < selectedMarkers.length ? others : [...others, marker.id]));
    }),
    onMove: useStable(({ marker }: SeenMarker, to: number, snapping: boolean): void => {
      if (!music) return;
      dispatch(
        rearrange('move a marker', (now) => {
          const seconds = contentSeconds(now, music, to);
          const resting = snapping && snap ? snappedTap(seconds, hits) : seconds;
          return movedTo(now, music, marker, frameOfContent(now, music, resting) ?? to);
        }),
      );
    }),
    onRemove: useStable(({ marker }: SeenMarker): void => {
      if (!music) return;
      dispatch(rearrange('remove a marker', (now) => removeSourceMarkers(now, music.source.id, [marker.id])));
    }),
  };
}
