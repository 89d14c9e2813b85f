import { memo } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { Icon } from '../../ui/icon';
import { SheetFrame } from '../../ui/sheet-frame';
import { useWide } from '../../ui/use-wide';
import { actionGroups, actionLooks, deskActions, thumbActions, type PaceAction } from './actions';

export interface ActionsProps {
  active: PaceAction | null;
  /** Actions that cannot be done as things stand. */
  disabled: ReadonlySet<PaceAction>;
  onAction(action: PaceAction): void;
}

function ActionButton({ action, active, disabled, onAction }: ActionsProps & { action: PaceAction }) {
  const { label, icon } = actionLooks[action];
  const off = disabled.has(action);
  return (
    <Pressable
      role="button"
      accessibilityLabel={label}
      aria-pressed={active === action}
      disabled={off}
      onPress={() => onAction(action)}
      className={`min-h-[48px] min-w-[60px] items-center justify-center gap-0.5 rounded-lg px-1 hover:bg-line active:opacity-70 ${active === action ? 'bg-line' : ''} ${off ? 'opacity-35' : ''}`}
    >
      <Icon of={icon} size={20} />
      <Text numberOfLines={1} className="font-sans text-[12px] text-bone">
        {label}
      </Text>
    </Pressable>
  );
}

/** The actions used most, where the thumb is. */
export const ActionBar = memo(function ActionBar(props: ActionsProps) {
  const wide = useWide();
  return (
    <View
      role="toolbar"
      aria-label="Pace actions"
      className={`flex-none flex-row border-t border-line bg-raised px-1 ${wide ? 'justify-start' : 'justify-between'}`}
    >
      {(wide ? deskActions : thumbActions).map((action) => (
        <ActionButton key={action} action={action} {...props} />
      ))}
    </View>
  );
});

/** All actions, by what they are about. */
export function MoreSheet({ onClose, ...props }: ActionsProps & { onClose(): void }) {
  return (
    <SheetFrame title="More" onClose={onClose}>
      <ScrollView contentContainerClassName="gap-3">
        {actionGroups.map(({ name, actions }) => (
          <View key={name} role="group" aria-label={name} className="gap-1">
            <Text className="font-sans text-[13px] text-quiet">{name}</Text>
            <View className="flex-row flex-wrap gap-1">
              {actions.map((action) => (
                <View key={action} className="w-[84px]">
                  <ActionButton action={action} {...props} />
                </View>
              ))}
            </View>
          </View>
        ))}
      </ScrollView>
    </SheetFrame>
  );
}
