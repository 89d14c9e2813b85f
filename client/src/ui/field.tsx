import { useId } from 'react';
import { Text, TextInput, View } from 'react-native';
import { StepButton } from './step-button';

interface FieldProps {
  label: string;
  value: string;
  onChange(text: string): void;
  /** What is wrong with the value, read after the label. */
  fault?: string | undefined;
  /** What may be typed, or what the value comes to. */
  hint?: string | undefined;
  onSubmit?: (() => void) | undefined;
  /** When the entry is left. */
  onBlur?: () => void;
  /** Without the label in sight, for narrow rows; these few words stand in the entry while it is empty. */
  bare?: string;
  /** Words rather than numbers. */
  words?: boolean;
  /** Takes the keyboard as soon as it is there: for what is asked for to be typed at once. */
  atOnce?: boolean;
  /** Steps the number, by the buttons beside it and the arrow keys. */
  onStep?: (by: 1 | -1) => void;
}

/** A labelled entry that takes what people type and says beneath what is wrong with it. */
export function Field({
  label,
  value,
  onChange,
  fault,
  hint,
  onSubmit,
  onBlur,
  bare,
  words = false,
  atOnce = false,
  onStep,
}: FieldProps) {
  const id = useId();
  return (
    <View className="min-w-0 flex-1 gap-1">
      {bare !== undefined ? null : <Text className="font-sans text-[13px] text-quiet">{label}</Text>}
      <View className="flex-row gap-1">
        {onStep ? <StepButton of={label} by={-1} onStep={onStep} /> : null}
        <TextInput
          aria-label={label}
          aria-invalid={fault ? true : undefined}
          aria-describedby={fault || hint ? id : undefined}
          value={value}
          onChangeText={onChange}
          onSubmitEditing={onSubmit}
          {...(onBlur && { onBlur })}
          {...(bare !== undefined && { placeholder: bare })}
          autoFocus={atOnce}
          // It selects a moment after: where there is nothing yet, that would be the first letter that was typed.
          selectTextOnFocus={value !== ''}
          autoCorrect={false}
          {...(onStep && { onKeyDown: arrowSteps(onStep) })}
          className={`h-11 w-full min-w-0 flex-1 rounded-lg border bg-ink text-[16px] ${onStep ? 'px-1 text-center' : 'px-3'} text-bone ${words ? 'font-sans' : 'font-mono'} ${fault ? 'border-wrong' : 'border-line'} focus:border-bone placeholder:text-quiet`}
        />
        {onStep ? <StepButton of={label} by={1} onStep={onStep} /> : null}
      </View>
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

const arrowSteps =
  (onStep: (by: 1 | -1) => void) =>
  (event: { key: string; preventDefault(): void }): void => {
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    onStep(event.key === 'ArrowUp' ? 1 : -1);
  };
