import type { RetimeMap } from '@hastig/contract';
import { paceWarnings } from '@hastig/core';
import ChartLine from 'lucide-react-native/icons/chart-line';
import Gauge from 'lucide-react-native/icons/gauge';
import List from 'lucide-react-native/icons/list';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize2 from 'lucide-react-native/icons/maximize-2';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import { memo, useMemo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { useAppDispatch, useSession } from '../../store/hooks';
import { paceViewChosen, snapToggled, type PaceView } from '../../store/session-slice';
import { MarkButtons } from '../../time-view/mark-buttons';
import { IconButton } from '../../ui/button';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';

const views = [
  { value: 'speed', label: 'Speed curve', icon: Gauge },
  { value: 'position', label: 'Positions', icon: ChartLine },
  { value: 'ledger', label: 'Ledger', icon: List },
] as const satisfies readonly { value: PaceView; label: string; icon: typeof Gauge }[];

interface ViewBarProps {
  map: RetimeMap;
  onCommand(id: 'zoom-all' | 'zoom-selection' | 'warnings'): void;
}

/** Marks, views and zoom: what is looked at, not what is changed. */
export const ViewBar = memo(function ViewBar({ map, onCommand }: ViewBarProps) {
  const dispatch = useAppDispatch();
  const wide = useWide();
  const { paceView, snap } = useSession('paceView', 'snap');
  const warnings = useMemo(() => paceWarnings(map).length, [map]);
  // On a wide screen the ledger has a place of its own beside the picture.
  const offered = views.filter(({ value }) => !wide || value !== 'ledger');
  return (
    <ToolBar>
      <MarkButtons narrow={!wide} />
      {warnings > 0 ? (
        <Pressable
          role="button"
          accessibilityLabel={`${warnings} ${warnings === 1 ? 'warning' : 'warnings'}`}
          onPress={() => onCommand('warnings')}
          className="h-11 flex-row items-center justify-center rounded-lg px-2 hover:bg-line"
        >
          <Text className="font-mono-medium text-[13px] text-wrong">{`▲ ${warnings}`}</Text>
        </Pressable>
      ) : null}
      <View className="flex-1" />
      <IconButton narrow={!wide} label="Snap" icon={Magnet} pressed={snap} onPress={() => dispatch(snapToggled())} />
      <IconButton narrow={!wide} label="Zoom to fit" icon={Maximize2} onPress={() => onCommand('zoom-all')} />
      <IconButton
        narrow={!wide}
        label="Zoom to selection"
        icon={ScanSearch}
        onPress={() => onCommand('zoom-selection')}
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
    </ToolBar>
  );
});
