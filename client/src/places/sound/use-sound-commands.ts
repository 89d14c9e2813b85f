import type { Clip } from '@hastig/contract';
import { useStore } from 'react-redux';
import { usePlaceCommands, type PlaceCommands } from '../../commands/use-commands';
import { useAppDispatch } from '../../store/hooks';
import type { RootState } from '../../store/store';
import type { TimeControl } from '../../time-view/use-time-view';
import { soundCommands, type SoundCommandId } from './commands';
import type { SoundContext, SoundSheetProps } from './commands/context';

export function useSoundCommands(clip: Clip, time: TimeControl): PlaceCommands<SoundCommandId> & { close(): void } {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { context, ...commands } = usePlaceCommands<SoundContext, SoundSheetProps, SoundCommandId>(
    soundCommands,
    (open) => ({
      ...{ clip, dispatch, time },
      state: store.getState,
      now: () => store.getState().session.playhead,
      close: () => open(null),
    }),
  );
  return { ...commands, close: context.close };
}
