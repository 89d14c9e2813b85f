import type { RetimeMap } from '@hastig/contract';
import { paceWarnings } from '@hastig/core';
import BracketsIn from 'lucide-react-native/icons/arrow-right-from-line';
import BracketsOut from 'lucide-react-native/icons/arrow-right-to-line';
import ChartLine from 'lucide-react-native/icons/chart-line';
import Gauge from 'lucide-react-native/icons/gauge';
import List from 'lucide-react-native/icons/list';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize2 from 'lucide-react-native/icons/maximize-2';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import X from 'lucide-react-native/icons/x';
import { memo, useMemo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { useStore } from 'react-redux';
import { useAppDispatch, useSession } from '../../store/hooks';
import { marked, marksCleared, paceViewChosen, snapToggled, type PaceView } from '../../store/session-slice';
import type { RootState } from '../../store/store';
import { IconButton } from '../../ui/button';
import { useWide } from '../../ui/use-wide';

const views = [
  { value: 'speed', label: 'Speed curve', icon: Gauge },
  { value: 'position', label: 'Positions', icon: ChartLine },
  { value: 'ledger', label: 'Ledger', icon: List },
] as const satisfies readonly { value: PaceView; label: string; icon: typeof Gauge }[];

export interface ViewBarProps {
  map: RetimeMap;
  onAction(action: 'zoom-all' | 'zoom-selection' | 'warnings'): void;
}

/** Marks, views and zoom: what is looked at, not what is changed. */
export const ViewBar = memo(function ViewBar({ map, onAction }: ViewBarProps) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const wide = useWide();
  const { marks, paceView, snap } = useSession('marks', 'paceView', 'snap');
  const warnings = useMemo(() => paceWarnings(map).length, [map]);
  // Read when it is needed: while playing, the playhead moves with every frame.
  const mark = (side: 'from' | 'to') => (): void => {
    const { playhead } = store.getState().session;
    dispatch(marked({ side, at: side === 'from' ? playhead : playhead + 1 }));
  };
  // On a wide screen the ledger has a place of its own beside the picture.
  const offered = views.filter(({ value }) => !wide || value !== 'ledger');
  return (
    <View
      role="toolbar"
      aria-label="Marks and views"
      className="h-11 flex-none flex-row items-center border-b border-line bg-raised"
    >
      <IconButton
        narrow={!wide}
        label="Mark in"
        icon={BracketsIn}
        pressed={marks.from !== null}
        onPress={mark('from')}
      />
      <IconButton narrow={!wide} label="Mark out" icon={BracketsOut} pressed={marks.to !== null} onPress={mark('to')} />
      {marks.from !== null || marks.to !== null ? (
        <IconButton narrow={!wide} label="Clear the marks" icon={X} onPress={() => dispatch(marksCleared())} />
      ) : null}
      {warnings > 0 ? (
        <Pressable
          role="button"
          accessibilityLabel={`${warnings} ${warnings === 1 ? 'warning' : 'warnings'}`}
          onPress={() => onAction('warnings')}
          className="h-11 flex-row items-center justify-center rounded-lg px-2 hover:bg-line"
        >
          <Text className="font-mono-medium text-[13px] text-wrong">{`▲ ${warnings}`}</Text>
        </Pressable>
      ) : null}
      <View className="flex-1" />
      <IconButton narrow={!wide} label="Snap" icon={Magnet} pressed={snap} onPress={() => dispatch(snapToggled())} />
      <IconButton narrow={!wide} label="Zoom to all" icon={Maximize2} onPress={() => onAction('zoom-all')} />
      <IconButton
        narrow={!wide}
        label="Zoom to the selection"
        icon={ScanSearch}
        onPress={() => onAction('zoom-selection')}
      />
      <View className="mx-1 h-6 w-px bg-line" />
      {offered.map(({ value, label, icon }) => (
        <IconButton
          narrow={!wide}
          key={value}
          label={label}
          icon={icon}
          pressed={paceView === value}
          onPress={() => dispatch(paceViewChosen(value))}
        />
      ))}
    </View>
  );
});
