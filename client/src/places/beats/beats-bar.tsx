import ListMusic from 'lucide-react-native/icons/list-music';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize2 from 'lucide-react-native/icons/maximize-2';
import Metronome from 'lucide-react-native/icons/metronome';
import { memo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { setName } from '../../beats/beat-words';
import { useAppDispatch, useSession } from '../../store/hooks';
import { clicksToggled, snapToggled } from '../../store/session-slice';
import { MarkButtons } from '../../time-view/mark-buttons';
import { IconButton } from '../../ui/button';
import { Icon } from '../../ui/icon';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';

interface BeatsBarProps {
  onSets(): void;
  onZoomAll(): void;
}

/** Marks, the set that is worked with, the click, snapping and zoom. */
export const BeatsBar = memo(function BeatsBar({ onSets, onZoomAll }: BeatsBarProps) {
  const dispatch = useAppDispatch();
  const wide = useWide();
  const { snap, markerSet, clicks } = useSession('snap', 'markerSet', 'clicks');
  return (
    <ToolBar>
      <MarkButtons narrow={!wide} />
      <Pressable
        role="button"
        accessibilityLabel={`Set: ${setName(markerSet)}. Choose a set`}
        onPress={onSets}
        className="h-11 min-w-0 flex-1 flex-row items-center gap-2 rounded-lg px-2 hover:bg-line"
      >
        <Icon of={ListMusic} size={18} />
        <Text numberOfLines={1} className="min-w-0 flex-shrink font-sans text-[13px] text-bone">
          {setName(markerSet)}
        </Text>
      </Pressable>
      <View className="flex-row">
        <IconButton
          narrow={!wide}
          label="Click on markers"
          icon={Metronome}
          pressed={clicks}
          onPress={() => dispatch(clicksToggled())}
        />
        <IconButton narrow={!wide} label="Snap" icon={Magnet} pressed={snap} onPress={() => dispatch(snapToggled())} />
        <IconButton narrow={!wide} label="Zoom to fit" icon={Maximize2} onPress={onZoomAll} />
      </View>
    </ToolBar>
  );
});
