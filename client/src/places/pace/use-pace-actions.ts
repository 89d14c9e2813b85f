import type { RetimeMap } from '@hastig/contract';
import { addKey, compile, keysOf, lockPart, pin, pinAt, removeKeys, spanIndexAt, unpin } from '@hastig/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { keysFor } from '../../keyboard/keys';
import { useShortcuts } from '../../keyboard/use-shortcuts';
import { useStage } from '../../stage/stage-context';
import { retime } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { openClip } from '../../store/selectors';
import {
  copiedFrom,
  keysSelected,
  marked,
  marksCleared,
  noticeSet,
  paceViewChosen,
  snapToggled,
  spanSelected,
  settingsCopied,
  toldSet,
  type PaceView,
} from '../../store/session-slice';
import type { RootState } from '../../store/store';
import type { PaceAction } from './actions';
import type { CurveMode } from './curve/speed-curve';
import type { TimeControl } from '../../time-view/use-time-view';

/** What changes what is seen. */
export type ZoomAction = 'zoom-all' | 'zoom-selection';

/** What the actions do, which sheet is open, and how the curve is used. */
export interface PaceActions {
  /** The action whose sheet is open. */
  active: PaceAction | null;
  mode: CurveMode;
  disabled: ReadonlySet<PaceAction>;
  act(action: PaceAction | ZoomAction): void;
  /** Text that was pasted on the place and looks like a table of keys. */
  pasted: string;
  close(): void;
}

const viewOrder: readonly PaceView[] = ['speed', 'position', 'ledger'];

export function usePaceActions(clipId: string, map: RetimeMap, time: TimeControl): PaceActions {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { seek } = useStage();
  const { selectedSpan, selectedKeys, copied } = useSession('selectedSpan', 'selectedKeys', 'copied');
  const [active, setActive] = useState<PaceAction | null>(null);
  const [mode, setMode] = useState<CurveMode>('scrub');
  const [pasted, setPasted] = useState('');
  // Read when it is needed: while playing, the playhead moves with every frame.
  const now = (): number => store.getState().session.playhead;
  const removable = selectedSpan !== null && selectedSpan > 0 && selectedSpan < map.spans.length ? selectedSpan : null;

  const close = (): void => {
    setActive(null);
    setMode('scrub');
    setPasted('');
  };
  const open = (action: PaceAction): void => {
    setMode('scrub');
    setActive(active === action ? null : action);
  };
  const curve = (wanted: 'draw' | 'select'): void => {
    setActive(null);
    dispatch(paceViewChosen('speed'));
    setMode(mode === wanted ? 'scrub' : wanted);
  };
  const part = (): number => Math.min(selectedSpan ?? spanIndexAt(compile(map), now()), map.spans.length - 1);

  const addKeyHere = (): void => {
    const at = now();
    dispatch(retime('add a key', clipId, (before) => addKey(before, at)));
    const key = keysOf(openClip(store.getState(), clipId)!.map).findIndex(({ output }) => Math.abs(output - at) < 1e-6);
    dispatch(spanSelected(key > 0 ? key : null));
  };
  const removeChosen = (): void => {
    const keys = selectedKeys.length > 0 ? selectedKeys : removable === null ? [] : [removable];
    if (keys.length > 0) dispatch(retime('remove a key', clipId, (before) => removeKeys(before, keys)));
    dispatch(spanSelected(null));
  };
  const togglePin = (): void => {
    const at = selectedSpan === null ? now() : compile(map).times[selectedSpan]!;
    dispatch(
      retime(pinAt(map, at) ? 'unpin' : 'pin', clipId, (before) =>
        pinAt(before, at) ? unpin(before, at) : pin(before, at),
      ),
    );
  };
  const toggleLock = (): void => {
    const index = part();
    const locked = !map.spans[index]!.locked;
    dispatch(retime(locked ? 'lock' : 'unlock', clipId, (before) => lockPart(before, index, locked)));
  };
  const copy = (): void => {
    const clip = openClip(store.getState(), clipId)!;
    dispatch(settingsCopied(copiedFrom(clip.clip, clip.map)));
    dispatch(toldSet(`The timing of ${clip.clip.name} is copied. Paste it on this clip or another.`));
  };
  const zoomSelection = (): void => {
    const { marks } = store.getState().session;
    const { times, length, count } = compile(map);
    if (selectedKeys.length > 0) time.show(times[Math.min(...selectedKeys)]!, times[Math.max(...selectedKeys)]!);
    else if (marks.from !== null || marks.to !== null) time.show(marks.from ?? 0, marks.to ?? length);
    else time.show(times[Math.max(0, part() - 1)]!, times[Math.min(count, part() + 2)]!);
  };

  const act = (action: PaceAction | ZoomAction): void => {
    if (action === 'zoom-selection') return zoomSelection();
    if (action === 'zoom-all') return time.showAll();
    if (action === 'draw' || action === 'select') return curve(action);
    const atOnce: Partial<Record<PaceAction, () => void>> = {
      key: addKeyHere,
      'remove-key': removeChosen,
      pin: togglePin,
      lock: toggleLock,
      copy,
    };
    const run = atOnce[action];
    if (!run) return open(action);
    run();
    if (active === 'more') setActive(null);
  };

  const mark = (side: 'from' | 'to') => (): void =>
    void dispatch(marked({ side, at: now() + (side === 'to' ? 1 : 0) }));
  const toKey = (way: 1 | -1) => (): void => {
    const outputs = keysOf(map).map(({ output }) => Math.ceil(output - 1e-6));
    const at = now();
    const next = way === 1 ? outputs.find((output) => output > at) : outputs.findLast((output) => output < at);
    if (next !== undefined) seek(next);
  };
  const nextView = (): void => {
    const { paceView } = store.getState().session;
    dispatch(paceViewChosen(viewOrder[(viewOrder.indexOf(paceView) + 1) % viewOrder.length]!));
  };
  const middle = time.view.width / 2;
  useShortcuts(
    keysFor({
      'mark-in': mark('from'),
      'mark-out': mark('to'),
      'clear-marks': () => dispatch(marksCleared()),
      'next-key': toKey(1),
      'previous-key': toKey(-1),
      'add-key': () => act('key'),
      'remove-key': () => act('remove-key'),
      'edit-key': () => act('edit-key'),
      pin: () => act('pin'),
      lock: () => act('lock'),
      speed: () => act('speed'),
      range: () => act('range'),
      ramp: () => act('ramp'),
      ease: () => act('ease'),
      freeze: () => act('freeze'),
      reverse: () => act('reverse'),
      fit: () => act('fit'),
      draw: () => act('draw'),
      select: () => act('select'),
      'copy-timing': copy,
      'paste-timing': () =>
        copied ? act('paste') : dispatch(noticeSet('Nothing is copied yet. Copy the timing of a clip first.')),
      snap: () => dispatch(snapToggled()),
      'zoom-all': time.showAll,
      'zoom-selection': zoomSelection,
      'zoom-in': () => time.zoomAt(middle, 1.5),
      'zoom-out': () => time.zoomAt(middle, 1 / 1.5),
      view: nextView,
      guide: () => act('guide'),
      warnings: () => act('warnings'),
      'key-map': () => act('key-map'),
      close: () => {
        close();
        dispatch(keysSelected([]));
      },
    }),
  );

  const disabled = useMemo(() => {
    const off = new Set<PaceAction>();
    if (removable === null && selectedKeys.length === 0) off.add('remove-key');
    if (selectedSpan === null) off.add('edit-key');
    if (!copied) off.add('paste');
    return off;
  }, [removable, selectedKeys, selectedSpan, copied]);

  // A table copied in a spreadsheet is pasted anywhere on the place.
  useEffect(() => {
    const paste = (event: ClipboardEvent): void => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if ((event.target as HTMLElement).closest('input,textarea') || !/\d[^\n]*\n[^\n]*\d/.test(text)) return;
      event.preventDefault();
      setPasted(text);
      setMode('scrub');
      setActive('table');
    };
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, []);

  // The same function for as long as the place is open, so that what is given it need not be drawn anew for it.
  const latest = useRef(act);
  latest.current = act;
  const stable = useCallback((action: PaceAction | ZoomAction) => latest.current(action), []);
  return { active, mode, disabled, act: stable, close, pasted };
}
