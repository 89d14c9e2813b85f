import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { useStore } from 'react-redux';
import { usePlaceCommands, type PlaceCommands } from '../../commands/use-commands';
import { useStage } from '../../stage/stage-context';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { clipsSelected } from '../../store/session-slice';
import type { RootState } from '../../store/store';
import type { TimeControl } from '../../time-view/use-time-view';
import { useStable } from '../../ui/use-stable';
import { timelineCommands, type TimelineCommandId } from './commands';
import type { TimelineContext, TimelineSheetProps } from './commands/context';

/** The commands in use, and how clips are chosen. */
interface TimelineCommands extends PlaceCommands<TimelineCommandId> {
  /** Whether a tap chooses one more clip. */
  several: boolean;
  choose(clipId: string, more: boolean): void;
  chooseNone(): void;
  close(): void;
}

/** @param onOpen called before a command opens its sheet */
export function useTimelineCommands(containerId: string, time: TimeControl, onOpen?: () => void): TimelineCommands {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const router = useRouter();
  const { seek } = useStage();
  const projectId = useAppSelector((state) => state.project.id);
  const project = useAppSelector((state) => state.project.document)!;
  const chosen = useSession('selectedClips', 'copied');
  const [several, setSeveral] = useState(false);

  const { context, ...commands } = usePlaceCommands<TimelineContext, TimelineSheetProps, TimelineCommandId>(
    timelineCommands,
    (openSheet) => ({
      ...{ containerId, project, dispatch, time, seek, several, setSeveral, ...chosen },
      state: store.getState,
      now: () => store.getState().session.playhead,
      go: (address) => router.push(`/project/${projectId}${address}` as Href),
      open: (id) => openSheet(id as TimelineCommandId),
      close: () => openSheet(null),
    }),
    onOpen,
  );
  const choose = useStable((clipId: string, more: boolean): void => {
    const { selectedClips } = store.getState().session;
    const others = selectedClips.filter((id) => id !== clipId);
    if (!more && !several) dispatch(clipsSelected([clipId]));
    else dispatch(clipsSelected(others.length < selectedClips.length ? others : [...selectedClips, clipId]));
  });
  return { ...commands, several, choose, chooseNone: () => dispatch(clipsSelected([])), close: context.close };
}
