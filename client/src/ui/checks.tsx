import Check from 'lucide-react-native/icons/check';
import { View } from 'react-native';
import { Icon } from './icon';
import { Option, OptionRow } from './option-row';

interface ChecksProps<T extends string> {
  label: string;
  options: readonly { value: NoInfer<T>; label: string }[];
  values: readonly T[];
  onChange: (values: T[]) => void;
}

/** Any of a few: a row of check boxes. */
export function Checks<T extends string>({ label, options, values, onChange }: ChecksProps<T>) {
  return (
    <OptionRow label={label} role="group">
      {options.map((option) => {
        const chosen = values.includes(option.value);
        return (
          <Option
            key={option.value}
            role="checkbox"
            label={option.label}
            chosen={chosen}
            onPress={() => onChange(chosen ? values.filter((one) => one !== option.value) : [...values, option.value])}
            mark={<Box checked={chosen} />}
          />
        );
      })}
    </OptionRow>
  );
}

function Box({ checked }: { checked: boolean }) {
  return (
    <View className={`h-5 w-5 items-center justify-center rounded border ${checked ? 'border-bone' : 'border-quiet'}`}>
      {checked ? <Icon of={Check} size={14} /> : null}
    </View>
  );
}
