import type { BeatAnalysis } from '@hastig/engine';
import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import type { AnalysisState } from '../../../beats/use-analysis';
import { Button } from '../../../ui/button';
import { Progress } from '../../../ui/progress';
import { SheetFrame } from '../../../ui/sheet-frame';

interface AnalysedProps {
  title: string;
  state: AnalysisState;
  onClose(): void;
  children(analysis: BeatAnalysis): ReactNode;
}

/** A sheet that needs what was heard: how far that is until then, and what to do where it failed. */
export function Analysed({ title, state, onClose, children }: AnalysedProps) {
  const { analysis, listening, fault, cancel, again } = state;
  if (analysis) return <>{children(analysis)}</>;
  const percent = Math.round((listening ?? 0) * 100);
  const words = fault ?? (listening === null ? 'Searching for beats …' : `Analysing: ${percent}%`);
  return (
    <SheetFrame title={title} onClose={onClose}>
      <Text
        role={fault ? 'alert' : 'status'}
        className={`font-sans text-[14px] ${fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {words}
      </Text>
      {listening === null ? null : (
        <>
          <Progress label="Analysis" value={listening} />
          <View className="flex-row">
            <Button label="Cancel" onPress={cancel} />
          </View>
        </>
      )}
      {fault ? (
        <View className="flex-row">
          <Button label="Try again" onPress={again} />
        </View>
      ) : null}
    </SheetFrame>
  );
}
