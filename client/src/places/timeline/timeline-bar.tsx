import ChevronsLeftRight from 'lucide-react-native/icons/chevrons-left-right';
import FoldHorizontal from 'lucide-react-native/icons/fold-horizontal';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize2 from 'lucide-react-native/icons/maximize-2';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import SquareDashed from 'lucide-react-native/icons/square-dashed';
import { memo } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useSession } from '../../store/hooks';
import { edgesChosen, rippleModeSet, snapToggled } from '../../store/session-slice';
import { MarkButtons } from '../../time-view/mark-buttons';
import { IconButton } from '../../ui/button';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';

interface TimelineBarProps {
  several: boolean;
  onSeveral(): void;
  onCommand(id: 'zoom-all' | 'zoom-selection'): void;
}

/** Marks, what a drag does, and zoom: how one works, not what is changed. */
export const TimelineBar = memo(function TimelineBar({ several, onSeveral, onCommand }: TimelineBarProps) {
  const dispatch = useAppDispatch();
  const wide = useWide();
  const { snap, edges, rippleMode, selectedClips } = useSession('snap', 'edges', 'rippleMode', 'selectedClips');
  return (
    <ToolBar>
      <MarkButtons narrow={!wide} />
      <View className="min-w-0 flex-1 items-center">
        {selectedClips.length > 1 ? (
          <Text
            role="status"
            numberOfLines={1}
            className="font-sans text-[12px] text-quiet"
          >{`${selectedClips.length} selected`}</Text>
        ) : null}
      </View>
      <IconButton narrow={!wide} label="Select several" icon={SquareDashed} pressed={several} onPress={onSeveral} />
      <IconButton
        narrow={!wide}
        label="Edges change speed"
        icon={ChevronsLeftRight}
        pressed={edges === 'stretch'}
        onPress={() => dispatch(edgesChosen(edges === 'trim' ? 'stretch' : 'trim'))}
      />
      <IconButton
        narrow={!wide}
        label="Ripple"
        icon={FoldHorizontal}
        pressed={rippleMode === 'close'}
        onPress={() => dispatch(rippleModeSet(rippleMode === 'close' ? 'leave' : 'close'))}
      />
      <IconButton narrow={!wide} label="Snap" icon={Magnet} pressed={snap} onPress={() => dispatch(snapToggled())} />
      <IconButton narrow={!wide} label="Zoom to fit" icon={Maximize2} onPress={() => onCommand('zoom-all')} />
      <IconButton
        narrow={!wide}
        label="Zoom to selection"
        icon={ScanSearch}
        onPress={() => onCommand('zoom-selection')}
      />
    </ToolBar>
  );
});
