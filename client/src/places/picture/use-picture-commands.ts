import type { Clip } from '@hastig/contract';
import { useStore } from 'react-redux';
import { usePlaceCommands, type PlaceCommands } from '../../commands/use-commands';
import { useAppDispatch } from '../../store/hooks';
import type { RootState } from '../../store/store';
import type { TimeControl } from '../../time-view/use-time-view';
import { pictureCommands, type PictureCommandId } from './commands';
import type { PictureContext, PictureSheetProps } from './commands/context';

export function usePictureCommands(
  clip: Clip,
  time: TimeControl,
  onOpen: () => void,
): PlaceCommands<PictureCommandId> & { close(): void } {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { context, ...commands } = usePlaceCommands<PictureContext, PictureSheetProps, PictureCommandId>(
    pictureCommands,
    (open) => ({
      ...{ clip, dispatch, time },
      state: store.getState,
      now: () => store.getState().session.playhead,
      close: () => open(null),
    }),
    onOpen,
  );
  return { ...commands, close: context.close };
}
