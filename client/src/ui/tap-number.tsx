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
}

/** A number that stands as text until it is tapped, and is then typed where it stands. */
export function TapNumber({ label, text, entry = text, onEnter, tone = 'text-bone' }: TapNumberProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | undefined>();
  const finish = (value: string | null): void => {
    const wrong = value === null || value === entry ? undefined : onEnter(value);
    setFault(wrong);
    if (!wrong) setDraft(null);
  };
  return (
    <View className="min-w-[88px] flex-1 items-center">
      {draft === null ? (
        <Pressable
          role="button"
          accessibilityLabel={`${label}: ${text}. Tap to type another.`}
          onPress={() => setDraft(entry)}
          className="min-h-[44px] items-center justify-center rounded-lg px-2 hover:bg-raised"
        >
          <Text numberOfLines={1} className={`font-mono-medium text-[17px] tabular-nums ${tone}`}>
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
