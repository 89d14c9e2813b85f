import Maximize2 from 'lucide-react-native/icons/maximize-2';
import { memo } from 'react';
import { MarkButtons } from '../../time-view/mark-buttons';
import { IconButton } from '../../ui/button';
import { ToolBar } from '../../ui/tool-bar';
import { useWide } from '../../ui/use-wide';
import { Meters } from './meters';

/** Marks, how loud it is, and zoom. */
export const SoundBar = memo(function SoundBar({ onZoomAll }: { onZoomAll(): void }) {
  const wide = useWide();
  return (
    <ToolBar>
      <MarkButtons narrow={!wide} />
      <Meters />
      <IconButton narrow={!wide} label="Zoom to fit" icon={Maximize2} onPress={onZoomAll} />
    </ToolBar>
  );
});
