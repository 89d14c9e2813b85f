import { addKey, keysOf, removeKey } from '@hastig/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'react-redux';
import { retime } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { openClip, shownMap } from '../../store/selectors';
import { spanSelected } from '../../store/session-slice';
import type { RootState } from '../../store/store';
import { useWide } from '../../ui/use-wide';
import { ActionBar, type PaceAction } from './action-bar';
import { SpeedCurve } from './curve/speed-curve';
import {
  FitSheet,
  FreezeSheet,
  RampSheet,
  ReverseSheet,
  SpeedSheet,
  TrimSheet,
  type SheetProps,
} from './sheets/sheets';

const sheets: Partial<Record<PaceAction, (props: SheetProps) => React.ReactNode>> = {
  speed: SpeedSheet,
  ramp: RampSheet,
  freeze: FreezeSheet,
  reverse: ReverseSheet,
  fit: FitSheet,
  trim: TrimSheet,
};

/** The place where speeds are shaped. */
export function PacePlace({ clipId }: { clipId: string }) {
  const dispatch = useAppDispatch();
  const wide = useWide();
  const map = useAppSelector((state) => openClip(state, clipId)?.map);
  const shown = useAppSelector((state) => shownMap(state, clipId));
  const selected = useAppSelector((state) => state.session.selectedSpan);
  const store = useStore<RootState>();
  const [active, setActive] = useState<PaceAction | null>(null);
  if (!map || !shown) return null;

  const removable = selected !== null && selected > 0 && selected < map.spans.length ? selected : null;
  const act = (action: PaceAction): void => {
    if (action === 'key') {
      // Read when it is needed: while playing, the playhead moves with every frame.
      const { playhead } = store.getState().session;
      dispatch(retime('add a key', clipId, (now) => addKey(now, playhead)));
      const key = keysOf(map).findIndex((one) => one.output > playhead);
      dispatch(spanSelected(key > 0 ? key : null));
    } else if (action === 'remove-key') {
      if (removable !== null) dispatch(retime('remove a key', clipId, (now) => removeKey(now, removable)));
      dispatch(spanSelected(null));
    } else {
      setActive(active === action ? null : action);
    }
  };
  const Sheet = active ? sheets[active] : undefined;
  const sheet = Sheet ? <Sheet key={active} clipId={clipId} map={map} onClose={() => setActive(null)} /> : null;

  return (
    <View className={`min-h-0 flex-1 ${wide ? 'flex-row' : ''}`}>
      <View className="min-h-0 min-w-0 flex-1">
        <SpeedCurve
          clipId={clipId}
          map={map}
          shown={shown}
          drawing={active === 'draw'}
          onDrawn={() => setActive(null)}
        />
        {wide || !sheet ? <ActionBar active={active} canRemoveKey={removable !== null} onAction={act} /> : null}
      </View>
      {sheet && wide ? <View className="w-[380px] border-l border-line bg-raised">{sheet}</View> : sheet}
    </View>
  );
}
