import Minimize from 'lucide-react-native/icons/minimize';
import Pause from 'lucide-react-native/icons/pause';
import { View } from 'react-native';
import { commandOf, type Command } from '../commands/command';
import { CommandButton } from '../commands/command-button';
import { movingCommands, type GeneralContext } from '../commands/general';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { useStage } from './stage-context';
import { isSmall, useStageForm } from './stage-form';

const command = (id: (typeof movingCommands)[number]['id']): Command<GeneralContext> => commandOf(movingCommands, id);

export function Transport() {
  const stage = useStage();
  const dispatch = useAppDispatch();
  const playing = useAppSelector((state) => state.session.playing);
  const loop = useAppSelector((state) => state.session.loop);
  const form = useStageForm();
  const full = form === 'full';
  // Room for what is used most; the keys and the timeline do the rest.
  const small = isSmall(form);
  const context = { dispatch, stage };
  return (
    <View
      role="toolbar"
      aria-label="Transport"
      className={`flex-row items-center justify-center ${small ? '' : 'gap-0.5 px-1'}`}
    >
      {small ? null : <CommandButton command={command('first-frame')} context={context} />}
      <CommandButton narrow={small} command={command('frame-back')} context={context} />
      <CommandButton
        command={command('play')}
        context={context}
        size={small ? 'usual' : 'large'}
        {...(playing && { label: 'Pause', icon: Pause })}
      />
      <CommandButton narrow={small} command={command('frame-on')} context={context} />
      {small ? null : (
        <>
          <CommandButton command={command('last-frame')} context={context} />
          <CommandButton command={command('loop')} context={context} pressed={loop} />
        </>
      )}
      <CommandButton
        narrow={small}
        command={command('full-screen')}
        context={context}
        {...(full && { label: 'Exit full screen', icon: Minimize })}
      />
    </View>
  );
}
