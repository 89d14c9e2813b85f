import BracketsIn from 'lucide-react-native/icons/arrow-right-from-line';
import BracketsOut from 'lucide-react-native/icons/arrow-right-to-line';
import X from 'lucide-react-native/icons/x';
import { useStore } from 'react-redux';
import { useAppDispatch, useSession } from '../store/hooks';
import { marked, marksCleared } from '../store/session-slice';
import type { RootState } from '../store/store';
import { IconButton } from '../ui/button';

/** Marks in and out at the playhead, for the thumb. */
export function MarkButtons({ narrow }: { narrow: boolean }) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { marks } = useSession('marks');
  // Read when it is needed: while playing, the playhead moves with every frame.
  const mark = (side: 'from' | 'to') => (): void => {
    const { playhead } = store.getState().session;
    dispatch(marked({ side, at: side === 'from' ? playhead : playhead + 1 }));
  };
  return (
    <>
      <IconButton
        narrow={narrow}
        label="Mark in"
        icon={BracketsIn}
        pressed={marks.from !== null}
        onPress={mark('from')}
      />
      <IconButton
        narrow={narrow}
        label="Mark out"
        icon={BracketsOut}
        pressed={marks.to !== null}
        onPress={mark('to')}
      />
      {marks.from !== null || marks.to !== null ? (
        <IconButton narrow={narrow} label="Clear in and out" icon={X} onPress={() => dispatch(marksCleared())} />
      ) : null}
    </>
  );
}
