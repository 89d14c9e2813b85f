import { Pressable, Text, View } from 'react-native';

export interface ChoiceProps<T extends string> {
  label: string;
  options: readonly { value: NoInfer<T>; label: string }[];
  value: T;
  onChange: (value: NoInfer<T>) => void;
}

/** One of a few: a row of radio buttons. */
export function Choice<T extends string>({ label, options, value, onChange }: ChoiceProps<T>) {
  return (
    <View className="gap-1">
      <Text className="font-sans text-[13px] text-quiet">{label}</Text>
      <View
        role="radiogroup"
        aria-label={label}
        className="flex-row flex-wrap gap-1 rounded-lg border border-line bg-ink p-1"
      >
        {options.map((option) => {
          const chosen = option.value === value;
          return (
            <Pressable
              key={option.value}
              role="radio"
              aria-checked={chosen}
              accessibilityLabel={option.label}
              onPress={() => onChange(option.value)}
              className={`min-h-[44px] flex-auto items-center justify-center rounded-md px-3 hover:opacity-90 ${chosen ? 'bg-line' : ''}`}
            >
              <Text
                numberOfLines={1}
                className={`text-[14px] ${chosen ? 'font-medium text-bone' : 'font-sans text-quiet'}`}
              >
                {option.label}
              </Text>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
}
