import type { ReactNode } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';

interface OptionRowProps {
  label: string;
  role: 'radiogroup' | 'group';
  /** Beside what they are about, in one row that is pushed sideways: where height is scarce. */
  oneLine?: boolean;
  children: ReactNode;
}

/** Options side by side beneath what they are about, in rows as there is room. */
export function OptionRow({ label, role, oneLine = false, children }: OptionRowProps) {
  if (oneLine) {
    return (
      <View className="flex-row items-center gap-2">
        <Text className="w-[84px] font-sans text-[13px] text-quiet">{label}</Text>
        <ScrollView horizontal showsHorizontalScrollIndicator={false} className="min-w-0 flex-1 rounded-lg bg-ink">
          <View role={role} aria-label={label} className="flex-row gap-1">
            {children}
          </View>
        </ScrollView>
      </View>
    );
  }
  return (
    <View className="gap-1">
      <Text className="font-sans text-[13px] text-quiet">{label}</Text>
      <View
        role={role}
        aria-label={label}
        className="flex-row flex-wrap gap-1 rounded-lg border border-line bg-ink p-1"
      >
        {children}
      </View>
    </View>
  );
}

interface OptionProps {
  label: string;
  role: 'radio' | 'checkbox';
  chosen: boolean;
  onPress(): void;
  /** Before the words. */
  mark?: ReactNode;
  disabled?: boolean;
}

/** One option of a row. */
export function Option({ label, role, chosen, onPress, mark, disabled = false }: OptionProps) {
  return (
    <Pressable
      role={role}
      aria-checked={chosen}
      accessibilityLabel={label}
      disabled={disabled}
      onPress={onPress}
      className={`${disabled ? 'opacity-40' : ''} min-h-[44px] flex-auto flex-row items-center justify-center gap-2 rounded-md px-3 ${chosen ? 'bg-line' : 'hover:bg-raised'}`}
    >
      {mark}
      <Text numberOfLines={1} className={`text-[14px] ${chosen ? 'font-medium text-bone' : 'font-sans text-quiet'}`}>
        {label}
      </Text>
    </Pressable>
  );
}
