import { Text, View } from 'react-native';
import { Option, OptionRow } from './option-row';

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly { value: NoInfer<T>; label: string }[];
  value: T;
  /** See `OptionRow`. */
  oneLine?: boolean;
  /** Why an option can't be chosen, in words; undefined where it can. */
  whyNot?: ((value: NoInfer<T>) => string | undefined) | undefined;
  onChange: (value: NoInfer<T>) => void;
}

/** One of a few: a row of radio buttons; beneath them why some can't be chosen. */
export function Choice<T extends string>({ label, options, value, oneLine = false, whyNot, onChange }: ChoiceProps<T>) {
  const refused = new Map(options.map((option) => [option.value, whyNot?.(option.value)]));
  const reasons = [...new Set([...refused.values()].filter((words) => words !== undefined))];
  return (
    <View className="gap-1">
      <OptionRow label={label} role="radiogroup" oneLine={oneLine}>
        {options.map((option) => (
          <Option
            key={option.value}
            role="radio"
            label={option.label}
            chosen={option.value === value}
            disabled={refused.get(option.value) !== undefined}
            onPress={() => onChange(option.value)}
          />
        ))}
      </OptionRow>
      {reasons.length > 0 ? <Text className="font-sans text-[13px] text-quiet">{reasons.join(' ')}</Text> : null}
    </View>
  );
}
