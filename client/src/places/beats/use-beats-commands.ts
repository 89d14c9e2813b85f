import { addSourceMarkers, secondsPosition, type SeenMarker } from '@hastig/core';
import { wallTime } from '@hastig/engine';
import { useState } from 'react';
import { useStore } from 'react-redux';
import { contentSeconds, type MusicClip } from '../../beats/music';
import { markersOf } from '../../beats/made-markers';
import { snappedTap } from '../../beats/snap-taps';
import { tapDelay } from '../../beats/tap-delay';
import { usePlaceCommands, type PlaceCommands } from '../../commands/use-commands';
import { useStage } from '../../stage/stage-context';
import { rearrange } from '../../store/edit';
import { useAppDispatch } from '../../store/hooks';
import type { RootState } from '../../store/store';
import type { TimeControl } from '../../time-view/use-time-view';
import { useStable } from '../../ui/use-stable';
import { beatsCommands, type BeatsCommandId } from './commands';
import type { BeatsContext, BeatsMode, BeatsSheetProps } from './commands/context';

interface BeatsCommands extends PlaceCommands<BeatsCommandId> {
  mode: BeatsMode;
  setMode(mode: BeatsMode): void;
  tapAt(wall: number): void;
  close(): void;
}

/** The set that taps belong to while none is chosen. */
const TAPS = 'Taps';
/** Seconds within which two taps are one that was felt twice. */
const TWICE = 0.04;

export function useBeatsCommands(
  containerId: string,
  music: MusicClip | undefined,
  markers: readonly SeenMarker[],
  hits: readonly { time: number }[],
  time: TimeControl,
): BeatsCommands {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { seek, frameAt } = useStage();
  const [mode, setMode] = useState<BeatsMode>(null);

  const tapAt = useStable((wall: number): void => {
    const { project, session } = store.getState();
    if (!music || !project.document) return;
    const frame = frameAt(wall - tapDelay()) ?? session.playhead;
    if (frame < music.from || frame >= music.to) return;
    const heard = contentSeconds(project.document, music, frame);
    const seconds = session.snapTaps && session.playing ? snappedTap(heard, hits) : heard;
    const set = session.markerSet ?? TAPS;
    const [marker] = markersOf(music.source, [{ seconds, kind: 'hand' }], set);
    const twice = secondsPosition(music.source, TWICE);
    if (
      !marker ||
      (music.source.markers ?? []).some((one) => one.set === marker.set && Math.abs(one.at - marker.at) < twice)
    )
      return;
    dispatch(rearrange('add a marker', (now) => addSourceMarkers(now, music.source.id, [marker])));
  });

  const { context, ...commands } = usePlaceCommands<BeatsContext, BeatsSheetProps, BeatsCommandId>(
    beatsCommands,
    (openSheet) => ({
      ...{ containerId, music, markers, dispatch, time, seek, mode, setMode },
      state: store.getState,
      now: () => store.getState().session.playhead,
      tap: () => tapAt(wallTime()),
      close: () => openSheet(null),
    }),
    () => setMode(null),
  );
  return { ...commands, mode, setMode, tapAt, close: context.close };
}
