import Maximize from 'lucide-react-native/icons/maximize';
import Minimize from 'lucide-react-native/icons/minimize';
import Pause from 'lucide-react-native/icons/pause';
import Play from 'lucide-react-native/icons/play';
import Repeat from 'lucide-react-native/icons/repeat';
import SkipBack from 'lucide-react-native/icons/skip-back';
import SkipForward from 'lucide-react-native/icons/skip-forward';
import StepBack from 'lucide-react-native/icons/step-back';
import StepForward from 'lucide-react-native/icons/step-forward';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { fullScreenToggled, loopToggled } from '../store/session-slice';
import { IconButton } from '../ui/button';
import { useStage } from './stage-context';
import { isSmall, useStageForm } from './stage-form';

export function Transport() {
  const { seek, step, toggle } = useStage();
  const dispatch = useAppDispatch();
  const playing = useAppSelector((state) => state.session.playing);
  const loop = useAppSelector((state) => state.session.loop);
  const form = useStageForm();
  const full = form === 'full';
  // Room for what is used most; the keys and the timeline do the rest.
  const small = isSmall(form);
  return (
    <View
      role="toolbar"
      aria-label="Transport"
      className={`flex-row items-center justify-center ${small ? '' : 'gap-0.5 px-1'}`}
    >
      {small ? null : <IconButton label="First frame" icon={SkipBack} onPress={() => seek(0)} />}
      <IconButton narrow={small} label="Previous frame" icon={StepBack} onPress={() => step(-1)} />
      <IconButton
        label={playing ? 'Pause' : 'Play'}
        icon={playing ? Pause : Play}
        onPress={toggle}
        size={small ? 'usual' : 'large'}
      />
      <IconButton narrow={small} label="Next frame" icon={StepForward} onPress={() => step(1)} />
      {small ? null : (
        <>
          <IconButton label="Last frame" icon={SkipForward} onPress={() => seek(Number.MAX_SAFE_INTEGER)} />
          <IconButton label="Loop" icon={Repeat} pressed={loop} onPress={() => dispatch(loopToggled())} />
        </>
      )}
      <IconButton
        narrow={small}
        label={full ? 'Exit full screen' : 'Full screen'}
        icon={full ? Minimize : Maximize}
        onPress={() => dispatch(fullScreenToggled())}
      />
    </View>
  );
}
