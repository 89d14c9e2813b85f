import { useStore } from 'react-redux';
import { CommandButton } from '../commands/command-button';
import { markCommands } from '../commands/general';
import { useAppDispatch, useSession } from '../store/hooks';
import type { RootState } from '../store/store';

/** Marks in and out at the playhead, for the thumb. */
export function MarkButtons({ narrow }: { narrow: boolean }) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { marks } = useSession('marks');
  // Read when it is needed: while playing, the playhead moves with every frame.
  const context = { dispatch, now: () => store.getState().session.playhead };
  const [markIn, markOut, clear] = markCommands;
  return (
    <>
      <CommandButton narrow={narrow} command={markIn} context={context} pressed={marks.from !== null} />
      <CommandButton narrow={narrow} command={markOut} context={context} pressed={marks.to !== null} />
      {marks.from !== null || marks.to !== null ? (
        <CommandButton narrow={narrow} command={clear} context={context} />
      ) : null}
    </>
  );
}
