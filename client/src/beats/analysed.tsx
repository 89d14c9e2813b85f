import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { Button } from '../ui/button';
import { Progress } from '../ui/progress';
import { SheetFrame } from '../ui/sheet-frame';

interface AnalysedProps<T> {
  title: string;
  /** What was found; undefined until then. */
  found: T | undefined;
  /** Share that is done while something is looked at or listened to; null before and after. */
  progress: number | null;
  /** Whether what was seen or heard is being searched; that may be cancelled too. */
  searching?: boolean;
  fault: string | null;
  cancel(): void;
  again(): void;
  onClose(): void;
  children(found: T): ReactNode;
}

/** A sheet that needs what was found in picture or sound: how far that is until then, and what to do where it failed. */
export function Analysed<T>(props: AnalysedProps<T>) {
  const { title, found, progress, searching = false, fault, cancel, again, onClose, children } = props;
  if (found !== undefined) return <>{children(found)}</>;
  const words =
    fault ?? `${searching ? 'Searching' : 'Analysing'}${progress === null ? '…' : `: ${Math.round(progress * 100)}%`}`;
  return (
    <SheetFrame title={title} onClose={onClose}>
      <Text
        role={fault ? 'alert' : 'status'}
        className={`font-sans text-[14px] ${fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {words}
      </Text>
      {progress === null ? null : <Progress label="Analysis" value={progress} />}
      {progress !== null || searching ? (
        <View className="flex-row">
          <Button label="Cancel" onPress={cancel} />
        </View>
      ) : null}
      {fault ? (
        <View className="flex-row">
          <Button label="Try again" onPress={again} />
        </View>
      ) : null}
    </SheetFrame>
  );
}
