import { createContext, memo, useContext, useLayoutEffect, useRef, useState } from 'react';
import { Pressable, Text, TextInput, View } from 'react-native';
import { lastInputByKeys } from './last-input';
import { StepButton } from './step-button';

/** What marks an entry that is typed where its number stands: it has a use of its own for Escape. */
export const IN_PLACE = 'inPlace';

/** Whether numbers stand without their labels beneath them, in lines as low as can still be tapped. */
export const DenseContext = createContext(false);

interface TapNumberProps {
  /** What the number is, for screen readers and beneath it. */
  label: string;
  text: string;
  /** What stands there to be changed when it is tapped; `text` unless given. */
  entry?: string;
  /** Takes what was typed; gives back what is wrong with it, or nothing. */
  onEnter(text: string): string | undefined;
  tone?: string;
  /** Steps the number: `+` and `-` while it has the focus, and buttons beneath it while it is being typed. */
  onStep?(by: 1 | -1): void;
  /** Narrower, for tables. */
  compact?: boolean;
  /** A longer one than those beside it, as a timecode is. */
  long?: boolean;
}

/** A number that stands as text until it is tapped, and is then typed where it stands. */
export const TapNumber = memo(function TapNumber({
  label,
  text,
  entry = text,
  onEnter,
  tone = 'text-bone',
  onStep,
  compact = false,
  long = false,
}: TapNumberProps) {
  const dense = useContext(DenseContext);
  const [typing, setTyping] = useState(false);
  // What was typed so far; null while that is nothing, and the number follows its own changes.
  const [typed, setTyped] = useState<string | null>(null);
  const [fault, setFault] = useState<string | undefined>();
  const number = useRef<View>(null);
  // What was begun with the keyboard goes on with it, from the number; what was tapped leaves the keys to the place.
  const byKeys = useRef(false);
  const begin = (): void => {
    byKeys.current = lastInputByKeys();
    setTyping(true);
  };
  useLayoutEffect(() => {
    if (!typing && byKeys.current && lastInputByKeys()) number.current?.focus();
  }, [typing]);
  const stop = (): void => {
    setTyping(false);
    setTyped(null);
    setFault(undefined);
  };
  const finish = (): void => {
    const wrong = typed === null || typed === entry ? undefined : onEnter(typed);
    if (wrong) setFault(wrong);
    else stop();
  };
  const step = (by: 1 | -1): void => {
    setTyped(null);
    setFault(undefined);
    onStep?.(by);
  };
  return (
    <View className={`items-center ${widths(dense, compact, long)}`}>
      {!typing ? (
        <Pressable
          ref={number}
          role="button"
          accessibilityLabel={`${label}: ${text}. Tap to edit.`}
          onPress={begin}
          {...(onStep && { onKeyDown: stepKeys(onStep) })}
          className={`items-center justify-center rounded-lg hover:bg-raised ${dense ? 'min-h-[32px]' : 'min-h-[44px]'} ${compact ? 'max-w-full px-0.5' : 'px-2'}`}
        >
          <Text
            numberOfLines={1}
            className={`font-mono-medium tabular-nums ${compact ? 'text-[14px]' : dense ? 'text-[15px]' : 'text-[17px]'} ${tone}`}
          >
            {text}
          </Text>
          {dense ? null : <Text className="font-sans text-[11px] text-quiet">{label}</Text>}
        </Pressable>
      ) : (
        <>
          <TextInput
            aria-label={label}
            aria-invalid={fault ? true : undefined}
            {...{ dataSet: { [IN_PLACE]: '' } }}
            autoFocus
            blurOnSubmit={false}
            selectTextOnFocus
            value={typed ?? entry}
            onChangeText={setTyped}
            onSubmitEditing={finish}
            onBlur={stop}
            onKeyPress={(event) => {
              if (event.nativeEvent.key === 'Escape') stop();
            }}
            className={`h-11 w-full rounded-lg border bg-ink text-center font-mono text-[16px] text-bone ${fault ? 'border-wrong' : 'border-bone'}`}
          />
          {onStep ? (
            <View className="absolute top-[46px] z-10 flex-row gap-1 rounded-lg bg-raised">
              <StepButton of={label} by={-1} onStep={step} />
              <StepButton of={label} by={1} onStep={step} />
            </View>
          ) : null}
          {fault ? (
            <Text role="alert" className="text-center font-sans text-[12px] text-wrong">
              {`${label} ${fault}`}
            </Text>
          ) : null}
        </>
      )}
    </View>
  );
});

function widths(dense: boolean, compact: boolean, long: boolean): string {
  // A longer number takes a line of its own there.
  if (dense) return compact ? 'flex-1 min-w-0' : long ? 'basis-full' : 'flex-1 min-w-[64px]';
  return `${long ? 'flex-[1.3]' : 'flex-1'} ${compact ? 'min-w-0' : 'min-w-[88px]'}`;
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
