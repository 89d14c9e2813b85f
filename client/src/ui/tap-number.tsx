import { useState } from 'react';
import { Pressable, Text, TextInput, View } from 'react-native';

export interface TapNumberProps {
  /** What the number is, for screen readers and beneath it. */
  label: string;
  text: string;
  /** What stands there to be changed when it is tapped; `text` unless given. */
  entry?: string;
  /** Takes what was typed; gives back what is wrong with it, or nothing. */
  onEnter(text: string): string | undefined;
  tone?: string;
  /** Steps the number; `+` and `-` do it while it has the focus. */
  onStep?(by: 1 | -1): void;
  /** Narrower, for tables. */
  compact?: boolean;
}

/** A number that stands as text until it is tapped, and is then typed where it stands. */
export function TapNumber({
  label,
  text,
  entry = text,
  onEnter,
  tone = 'text-bone',
  onStep,
  compact = false,
}: TapNumberProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | undefined>();
  const finish = (value: string | null): void => {
    const wrong = value === null || value === entry ? undefined : onEnter(value);
    setFault(wrong);
    if (!wrong) setDraft(null);
  };
  return (
    <View className={`flex-1 items-center ${compact ? 'min-w-0' : 'min-w-[88px]'}`}>
      {draft === null ? (
        <Pressable
          role="button"
          accessibilityLabel={`${label}: ${text}. Tap to type another.`}
          onPress={() => setDraft(entry)}
          {...(onStep && { onKeyDown: stepKeys(onStep) })}
          className={`min-h-[44px] items-center justify-center rounded-lg hover:bg-raised ${compact ? 'max-w-full px-0.5' : 'px-2'}`}
        >
          <Text
            numberOfLines={1}
            className={`font-mono-medium tabular-nums ${compact ? 'text-[14px]' : 'text-[17px]'} ${tone}`}
          >
            {text}
          </Text>
          <Text className="font-sans text-[11px] text-quiet">{label}</Text>
        </Pressable>
      ) : (
        <>
          <TextInput
            aria-label={label}
            aria-invalid={fault ? true : undefined}
            autoFocus
            blurOnSubmit={false}
            selectTextOnFocus
            value={draft}
            onChangeText={setDraft}
            onSubmitEditing={() => finish(draft)}
            onBlur={() => {
              setDraft(null);
              setFault(undefined);
            }}
            onKeyPress={(event) => {
              if (event.nativeEvent.key === 'Escape') setDraft(null);
            }}
            className={`h-11 w-full rounded-lg border bg-ink text-center font-mono text-[16px] text-bone ${fault ? 'border-wrong' : 'border-bone'}`}
          />
          {fault ? (
            <Text role="alert" className="text-center font-sans text-[12px] text-wrong">
              {`${label} ${fault}`}
            </Text>
          ) : null}
        </>
      )}
    </View>
  );
}

// `+` without the shift key counts, as do the keys of the number pad.
const stepKeys =
  (onStep: (by: 1 | -1) => void) =>
  (event: { key: string; preventDefault(): void; stopPropagation(): void }): void => {
    const by = event.key === '+' || event.key === '=' ? 1 : event.key === '-' ? -1 : undefined;
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onStep(by);
  };
