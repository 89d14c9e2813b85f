import { memo } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { Icon } from '../ui/icon';
import { SheetFrame } from '../ui/sheet-frame';
import { useArrangement } from '../ui/use-wide';
import { behindMore, inBar, type Pressed, type Shown } from './command';

/** The commands of a place, which of them cannot be done now, and which is under way. */
export interface CommandsProps {
  commands: readonly Shown[];
  active: string | null;
  disabled: ReadonlySet<string>;
  onCommand(id: string): void;
}

interface CommandButtonProps extends Pick<CommandsProps, 'onCommand'> {
  command: Pressed;
  active: boolean;
  off: boolean;
  lines?: number;
}

// What can't be done changes with every edit, for one or two commands: the others stay as they are drawn.
const CommandButton = memo(function CommandButton(props: CommandButtonProps) {
  const { command, active, off, onCommand, lines = 1 } = props;
  const { id, label, icon } = command;
  return (
    <Pressable
      role="button"
      accessibilityLabel={label}
      aria-pressed={active}
      disabled={off}
      onPress={() => onCommand(id)}
      className={`min-h-[48px] min-w-[60px] items-center justify-center gap-0.5 rounded-lg px-1 hover:bg-line active:opacity-70 ${active ? 'bg-line' : ''} ${off ? 'opacity-35' : ''}`}
    >
      <Icon of={icon} size={20} />
      <Text numberOfLines={lines} className="text-center font-sans text-[12px] text-bone">
        {label}
      </Text>
    </Pressable>
  );
});

const buttonOf = (
  command: Pressed,
  { active, disabled, onCommand }: Omit<CommandsProps, 'commands'>,
): CommandButtonProps => ({
  ...{ command, onCommand },
  active: active === command.id,
  off: disabled.has(command.id),
});

/** The commands used most, where the thumb is: beneath the place, or at its side on a turned phone; more of them where there is room. */
export const CommandBar = memo(function CommandBar({ name, commands, ...state }: CommandsProps & { name: string }) {
  const arrangement = useArrangement();
  const upright = arrangement === 'turned';
  const shown = inBar(commands, arrangement !== 'phone');
  const button = (command: Pressed) => <CommandButton key={command.id} {...buttonOf(command, state)} />;
  // The last one leads to all others, so it stays in sight where the bar is shorter than its commands.
  return (
    <View
      role="toolbar"
      aria-label={name}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      className={`flex-none border-line bg-raised ${upright ? 'w-[76px] flex-col border-l py-1' : 'flex-row border-t px-1'}`}
    >
      <ScrollView
        horizontal={!upright}
        showsHorizontalScrollIndicator={false}
        showsVerticalScrollIndicator={false}
        contentContainerClassName={arrangement === 'phone' ? 'flex-1 justify-between' : ''}
      >
        {shown.slice(0, -1).map(button)}
      </ScrollView>
      {button(shown.at(-1)!)}
    </View>
  );
});

/** All commands, by what they are about. */
export function MoreSheet({ commands, onClose, ...state }: CommandsProps & { onClose(): void }) {
  return (
    <SheetFrame title="More" onClose={onClose}>
      <ScrollView contentContainerClassName="gap-3">
        {behindMore(commands).map(([group, ofGroup]) => (
          <View key={group} role="group" aria-label={group} className="gap-1">
            <Text className="font-sans text-[13px] text-quiet">{group}</Text>
            <View className="flex-row flex-wrap gap-1">
              {ofGroup.map((command) => (
                <View key={command.id} className="w-[84px]">
                  <CommandButton {...buttonOf(command, state)} lines={2} />
                </View>
              ))}
            </View>
          </View>
        ))}
      </ScrollView>
    </SheetFrame>
  );
}
