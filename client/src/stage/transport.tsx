import Pause from 'lucide-react-native/icons/pause';
import Play from 'lucide-react-native/icons/play';
import Repeat from 'lucide-react-native/icons/repeat';
import SkipBack from 'lucide-react-native/icons/skip-back';
import SkipForward from 'lucide-react-native/icons/skip-forward';
import StepBack from 'lucide-react-native/icons/step-back';
import StepForward from 'lucide-react-native/icons/step-forward';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { loopToggled } from '../store/session-slice';
import { IconButton } from '../ui/button';
import { useStage } from './stage-context';

export function Transport() {
  const { seek, step, toggle } = useStage();
  const dispatch = useAppDispatch();
  const playing = useAppSelector((state) => state.session.playing);
  const loop = useAppSelector((state) => state.session.loop);
  return (
    <View role="toolbar" aria-label="Transport" className="flex-row items-center justify-center gap-1 px-2">
      <IconButton label="First frame" icon={SkipBack} onPress={() => seek(0)} />
      <IconButton label="Previous frame" icon={StepBack} onPress={() => step(-1)} />
      <IconButton label={playing ? 'Pause' : 'Play'} icon={playing ? Pause : Play} onPress={toggle} large />
      <IconButton label="Next frame" icon={StepForward} onPress={() => step(1)} />
      <IconButton label="Last frame" icon={SkipForward} onPress={() => seek(Number.MAX_SAFE_INTEGER)} />
      <IconButton label="Loop" icon={Repeat} pressed={loop} onPress={() => dispatch(loopToggled())} />
    </View>
  );
}
