import { useId } from 'react';
import { Text, TextInput, View } from 'react-native';

export interface FieldProps {
  label: string;
  value: string;
  onChange(text: string): void;
  /** What is wrong with the value, read after the label. */
  fault?: string | undefined;
  /** What may be typed, or what the value comes to. */
  hint?: string | undefined;
  onSubmit?: (() => void) | undefined;
  /** Words rather than numbers. */
  words?: boolean;
}

/** A labelled entry that takes what people type and says beneath what is wrong with it. */
export function Field({ label, value, onChange, fault, hint, onSubmit, words = false }: FieldProps) {
  const id = useId();
  return (
    <View className="min-w-0 flex-1 gap-1">
      <Text className="font-sans text-[13px] text-quiet">{label}</Text>
      <TextInput
        aria-label={label}
        aria-invalid={fault ? true : undefined}
        aria-describedby={fault || hint ? id : undefined}
        value={value}
        onChangeText={onChange}
        onSubmitEditing={onSubmit}
        selectTextOnFocus
        autoCorrect={false}
        className={`h-11 w-full min-w-0 rounded-lg border bg-ink px-3 text-[16px] text-bone ${words ? 'font-sans' : 'font-mono'} ${fault ? 'border-wrong' : 'border-line'} focus:border-bone`}
      />
      {fault || hint ? (
        <Text
          id={id}
          role={fault ? 'alert' : undefined}
          className={`font-sans text-[12px] ${fault ? 'text-wrong' : 'text-quiet'}`}
        >
          {fault ? `${label} ${fault}` : hint}
        </Text>
      ) : null}
    </View>
  );
}
