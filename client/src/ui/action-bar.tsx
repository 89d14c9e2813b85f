import type { LucideIcon } from 'lucide-react-native';
import { memo } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { Icon } from './icon';
import { SheetFrame } from './sheet-frame';
import { useWide } from './use-wide';

/** Name and icon of an action. */
export interface ActionLook {
  label: string;
  icon: LucideIcon;
}

/** The actions of a place: how they look, which cannot be done now, and which is under way. */
export interface ActionsProps<A extends string> {
  looks: Readonly<Record<A, ActionLook>>;
  active: A | null;
  disabled: ReadonlySet<A>;
  onAction(action: A): void;
}

function ActionButton<A extends string>({
  action,
  looks,
  active,
  disabled,
  onAction,
}: ActionsProps<A> & { action: A }) {
  const { label, icon } = looks[action];
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

function Bar<A extends string>({
  name,
  thumb,
  desk,
  ...props
}: ActionsProps<A> & { name: string; thumb: readonly A[]; desk: readonly A[] }) {
  const wide = useWide();
  const actions = wide ? desk : thumb;
  const button = (action: A) => <ActionButton key={action} action={action} {...props} />;
  // The last one leads to all others, so it stays in sight where the bar is narrower than its actions.
  return (
    <View role="toolbar" aria-label={name} className="flex-none flex-row border-t border-line bg-raised px-1">
      <ScrollView
        horizontal
        showsHorizontalScrollIndicator={false}
        contentContainerClassName={wide ? '' : 'flex-1 justify-between'}
      >
        {actions.slice(0, -1).map(button)}
      </ScrollView>
      {button(actions.at(-1)!)}
    </View>
  );
}

/** The actions used most, where the thumb is; more of them on a wide screen. */
export const ActionBar = memo(Bar) as typeof Bar;

/** All actions, by what they are about. */
export function MoreSheet<A extends string>({
  groups,
  onClose,
  ...props
}: ActionsProps<A> & { groups: readonly { name: string; actions: readonly A[] }[]; onClose(): void }) {
  return (
    <SheetFrame title="More" onClose={onClose}>
      <ScrollView contentContainerClassName="gap-3">
        {groups.map(({ name, actions }) => (
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
