import type { Loudness } from '@hastig/core';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { decibelWords } from '../../../sound/pitch-words';
import { useStage } from '../../../stage/stage-context';
import { Button } from '../../../ui/button';
import { Progress } from '../../../ui/progress';
import { SheetFrame } from '../../../ui/sheet-frame';
import type { SoundSheetProps } from '../commands/context';

interface Measuring {
  share: number;
  found?: Loudness | null;
  fault?: string;
}

/** What is loud of what is on the stage, after ITU-R BS.1770 and EBU R 128. */
export function LoudnessSheet({ onClose }: SoundSheetProps) {
  const stage = useStage();
  const [run, setRun] = useState(0);
  const [state, setState] = useState<Measuring>({ share: 0 });
  useEffect(() => {
    let shown = true;
    const put = (next: Measuring): void => {
      if (shown) setState(next);
    };
    put({ share: 0 });
    stage
      .loudness((share) => put({ share }))
      .then(
        (found) => put({ share: 1, found }),
        (error: Error) => put({ share: 0, fault: error.message }),
      );
    return () => {
      shown = false;
    };
  }, [stage, run]);
  const { share, found, fault } = state;
  const rows: [name: string, value: string, unit: string][] = found
    ? [
        ['Integrated', decibelWords(found.integrated), 'LUFS'],
        ['Range', found.range.toFixed(1), 'LU'],
        ['Momentary, most', decibelWords(found.momentaryMax), 'LUFS'],
        ['Short-term, most', decibelWords(found.shortTermMax), 'LUFS'],
        ['True peak', decibelWords(found.truePeak), 'dBTP'],
      ]
    : [];
  return (
    <SheetFrame title="Loudness" onClose={onClose}>
      {found === undefined && !fault ? (
        <>
          <Text role="status" className="font-sans text-[14px] text-quiet">
            {`Listening: ${Math.round(share * 100)}%`}
          </Text>
          <Progress label="Loudness" value={share} />
        </>
      ) : null}
      {fault ? (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {fault}
        </Text>
      ) : null}
      {found === null ? <Text className="font-sans text-[14px] text-quiet">There is no sound here.</Text> : null}
      <View role="list" aria-label="Loudness values">
        {rows.map(([name, value, unit]) => (
          <View key={name} role="listitem" className="min-h-[36px] flex-row items-center border-b border-line">
            <Text className="flex-1 font-sans text-[14px] text-quiet">{name}</Text>
            <Text className="font-mono text-[15px] text-bone">{`${value} ${unit}`}</Text>
          </View>
        ))}
      </View>
      {found === undefined ? null : (
        <View className="flex-row">
          <Button label="Measure again" onPress={() => setRun(run + 1)} />
        </View>
      )}
    </SheetFrame>
  );
}
