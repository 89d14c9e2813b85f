import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { Button } from '../ui/button';
import { SheetFrame } from '../ui/sheet-frame';

interface TrialSheetProps {
  title: string;
  /** Why the edit cannot be made. */
  fault: string | undefined;
  /** What it comes to, in a line; undefined while there is no result. */
  outcome: string | undefined;
  /** What there is to be done before there is one. */
  waiting?: string | undefined;
  onApply(): void;
  onClose(): void;
  children: ReactNode;
}

/** A sheet for an edit that is tried out while it is filled in: beneath it what it comes to, and the way to keep it. */
export function TrialSheet({ title, fault, outcome, waiting, onApply, onClose, children }: TrialSheetProps) {
  const foot = (
    <View className="flex-row items-center gap-3 border-t border-line px-4 py-2">
      <Text
        role={fault ? 'alert' : 'status'}
        className={`flex-1 font-sans text-[13px] ${fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {fault ?? outcome ?? waiting ?? 'Enter the numbers to see a preview.'}
      </Text>
      <Button label="Apply" kind="primary" disabled={outcome === undefined} onPress={onApply} />
    </View>
  );
  const applyByKey = (): void => {
    if (outcome !== undefined) onApply();
  };
  return (
    <SheetFrame title={title} onClose={onClose} onEnter={applyByKey} closing="Discard" foot={foot}>
      {children}
    </SheetFrame>
  );
}
