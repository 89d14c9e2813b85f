import { clipProgram, findClip, programOf, sourcesOf, type Loudness } from '@hastig/core';
import { startLoudness, type Running } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { decibelWords } from '../../../sound/pitch-words';
import { useAppSelector } from '../../../store/hooks';
import { sourceLocations } from '../../../store/selectors';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Progress } from '../../../ui/progress';
import { SheetFrame } from '../../../ui/sheet-frame';
import type { SoundSheetProps } from '../commands/context';

type What = 'clip' | 'timeline';

interface Measured {
  /** Share that has been listened to, while it is measured. */
  share?: number;
  found?: Loudness | null;
  fault?: string;
}

/** How loud the clip is, or all it lies in, after ITU-R BS.1770 and EBU R 128. */
export function LoudnessSheet({ clipId, containerId, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const locations = useAppSelector(sourceLocations);
  const [what, setWhat] = useState<What>('clip');
  const [{ share, found, fault }, setState] = useState<Measured>({});
  const running = useRef<Running<Loudness | null> | null>(null);
  const cancel = (): void => {
    running.current?.cancel();
    running.current = null;
    setState({});
  };
  // What is measured when the sheet is closed is wanted no more.
  useEffect(() => () => running.current?.cancel(), []);
  const measure = (): void => {
    running.current?.cancel();
    const clip = findClip(project, clipId);
    const program = what === 'clip' && clip ? clipProgram(project, clip) : programOf(project, containerId);
    const ids = new Set(sourcesOf(program));
    const sources = Object.fromEntries(Object.entries(locations).filter(([id]) => ids.has(id)));
    const run = startLoudness(program, sources, (now) => running.current === run && setState({ share: now }));
    running.current = run;
    setState({ share: 0 });
    run.result.then(
      (loudness) => setState({ found: loudness }),
      (error: Error) => setState({ fault: error.message }),
    );
  };
  const choose = (next: What): void => {
    cancel();
    setWhat(next);
  };
  const rows: [name: string, value: string, unit: string][] = found
    ? [
        ['Integrated', decibelWords(found.integrated), 'LUFS'],
        ['Range', found.range.toFixed(1), 'LU'],
        ['Momentary max', decibelWords(found.momentaryMax), 'LUFS'],
        ['Short-term max', decibelWords(found.shortTermMax), 'LUFS'],
        ['True peak', decibelWords(found.truePeak), 'dBTP'],
      ]
    : [];
  return (
    <SheetFrame title="Loudness" onClose={onClose}>
      <Choice
        label="Measure"
        value={what}
        onChange={choose}
        options={[
          { value: 'clip', label: 'Clip' },
          { value: 'timeline', label: 'Timeline mix' },
        ]}
      />
      {share === undefined ? null : (
        <>
          <Text role="status" className="font-sans text-[14px] text-quiet">
            {`Measuring: ${Math.round(share * 100)}%`}
          </Text>
          <Progress label="Loudness" value={share} />
        </>
      )}
      {fault ? (
        <Text role="alert" className="font-sans text-[14px] text-wrong">
          {`${fault} Check the footage and measure again.`}
        </Text>
      ) : null}
      {found === null ? <Text className="font-sans text-[14px] text-quiet">There is no sound here.</Text> : null}
      {found ? (
        <View role="list" aria-label="Loudness values">
          {rows.map(([name, value, unit]) => (
            <View key={name} role="listitem" className="min-h-[36px] flex-row items-center border-b border-line">
              <Text className="flex-1 font-sans text-[14px] text-quiet">{name}</Text>
              <Text className="font-mono text-[15px] text-bone">{`${value} ${unit}`}</Text>
            </View>
          ))}
        </View>
      ) : null}
      <View className="flex-row">
        {share === undefined ? (
          <Button label={found === undefined ? 'Measure' : 'Measure again'} kind="primary" onPress={measure} />
        ) : (
          <Button label="Cancel" onPress={cancel} />
        )}
      </View>
    </SheetFrame>
  );
}
