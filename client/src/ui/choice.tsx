import { Option, OptionRow } from './option-row';

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly { value: NoInfer<T>; label: string }[];
  value: T;
  /** See `OptionRow`. */
  oneLine?: boolean;
  onChange: (value: NoInfer<T>) => void;
}

/** One of a few: a row of radio buttons. */
export function Choice<T extends string>({ label, options, value, oneLine = false, onChange }: ChoiceProps<T>) {
  return (
    <OptionRow label={label} role="radiogroup" oneLine={oneLine}>
      {options.map((option) => (
        <Option
          key={option.value}
          role="radio"
          label={option.label}
          chosen={option.value === value}
          onPress={() => onChange(option.value)}
        />
      ))}
    </OptionRow>
  );
}
