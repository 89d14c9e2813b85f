import type { RetimeMap } from '@hastig/contract';
import { useEffect, useState } from 'react';
import { useStore } from 'react-redux';
import { usePlaceCommands, type PlaceCommands } from '../../commands/use-commands';
import { useStage } from '../../stage/stage-context';
import { useAppDispatch, useSession } from '../../store/hooks';
import { paceViewChosen } from '../../store/session-slice';
import type { RootState } from '../../store/store';
import type { TimeControl } from '../../time-view/use-time-view';
import { paceCommands, type PaceCommandId } from './commands';
import type { PaceContext, PaceSheetProps } from './commands/context';
import type { CurveMode } from './curve/speed-curve';

/** The commands in use, how the curve is used, and what was pasted. */
interface PaceCommands extends PlaceCommands<PaceCommandId> {
  mode: CurveMode;
  /** Text that was pasted on the place and looks like a table of keys. */
  pasted: string;
  close(): void;
}

export function usePaceCommands(clipId: string, map: RetimeMap, time: TimeControl): PaceCommands {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { seek } = useStage();
  const chosen = useSession('selectedSpan', 'selectedKeys', 'copied');
  const [mode, setMode] = useState<CurveMode>('scrub');
  const [pasted, setPasted] = useState('');

  const { context, open, active, ...commands } = usePlaceCommands<PaceContext, PaceSheetProps, PaceCommandId>(
    paceCommands,
    (openSheet) => ({
      ...{ clipId, map, dispatch, time, seek, ...chosen },
      state: store.getState,
      now: () => store.getState().session.playhead,
      curveTo: (wanted) => {
        openSheet(null);
        dispatch(paceViewChosen('speed'));
        setMode(mode === wanted ? 'scrub' : wanted);
      },
      end: () => {
        openSheet(null);
        setMode('scrub');
        setPasted('');
      },
    }),
    () => setMode('scrub'),
  );
  // A table copied in a spreadsheet is pasted anywhere on the place.
  useEffect(() => {
    const paste = (event: ClipboardEvent): void => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if ((event.target as HTMLElement).closest('input,textarea') || !/\d[^\n]*\n[^\n]*\d/.test(text)) return;
      event.preventDefault();
      setPasted(text);
      setMode('scrub');
      open('table');
    };
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, []);

  return { ...commands, active, open, mode, pasted, close: context.end };
}
