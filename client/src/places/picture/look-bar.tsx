import { useEffect } from 'react';
import { Pressable, Text } from 'react-native';
import { commandOf } from '../../commands/command';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { lookChosen } from '../../store/stage-slice';
import { IconButton } from '../../ui/button';
import { Icon } from '../../ui/icon';
import { pictureCommands, type PictureCommandId } from './commands';

const toggles = (['wipe', 'difference', 'movement'] as const).map((id) => commandOf(pictureCommands, id));
const before = commandOf(pictureCommands, 'before');

/** How the picture at rest is looked at: as it was for as long as a button is held, beside it, what differs, what moves. */
export function LookBar({ narrow, onCommand }: { narrow: boolean; onCommand(id: PictureCommandId): void }) {
  const dispatch = useAppDispatch();
  const { kind } = useAppSelector((state) => state.stage.look);
  // Other places show the picture as it is made.
  useEffect(() => () => void dispatch(lookChosen({ kind: 'made' })), [dispatch]);
  const hold = (held: boolean): void => void dispatch(lookChosen({ kind: held ? 'before' : 'made' }));
  return (
    <>
      <Pressable
        role="button"
        accessibilityLabel="Hold to show before"
        aria-pressed={kind === 'before'}
        onPressIn={() => hold(true)}
        onPressOut={() => hold(false)}
        className={`h-11 flex-row items-center gap-1.5 rounded-lg px-2.5 hover:bg-line ${kind === 'before' ? 'bg-line' : ''}`}
      >
        <Icon of={before.icon} size={20} />
        <Text className="font-medium text-[13px] text-bone">{before.label}</Text>
      </Pressable>
      {toggles.map(({ id, label, icon }) => (
        <IconButton
          key={id}
          narrow={narrow}
          label={label}
          icon={icon}
          pressed={kind === id}
          onPress={() => onCommand(id)}
        />
      ))}
    </>
  );
}
