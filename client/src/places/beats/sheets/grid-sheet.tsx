import { evenGrid, positionSeconds, sourceFrames, tappedTempo, trimDecimals } from '@hastig/core';
import { wallTime } from '@hastig/engine';
import { useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { useStore } from 'react-redux';
import { tempoWords } from '../../../beats/beat-words';
import { countedBeats } from '../../../beats/made-markers';
import { choiceField, numberField } from '../../../form/specs';
import type { RootState } from '../../../store/store';
import { Button } from '../../../ui/button';
import type { BeatsSheetProps } from '../commands/context';
import { MadeSheet } from '../../../beats/made-sheet';

/** Seconds without a tap after which the next one begins anew. */
const PAUSE = 2.5;

/** An even grid, for music in which nothing can be found: its tempo typed or tapped, a beat that is known at the playhead. */
export function GridSheet({ footage, state, onClose }: BeatsSheetProps) {
  const store = useStore<RootState>();
  const [tapped, setTapped] = useState<number>();
  const taps = useRef<number[]>([]);
  const tap = (set: (change: { tempo: string }) => void): void => {
    const now = wallTime() / 1000;
    if (now - (taps.current.at(-1) ?? -Infinity) > PAUSE) taps.current = [];
    taps.current.push(now);
    const tempo = tappedTempo(taps.current);
    setTapped(tempo);
    if (tempo) set({ tempo: trimDecimals(tempo, 2) });
  };
  const found = state.found?.readings.find(({ steady }) => steady)?.tempo;
  const tempo = found ?? 120;
  const here = footage.secondsAt(store.getState().session.playhead);
  return (
    <MadeSheet
      title="Even grid"
      label="set an even grid"
      set="Grid"
      footage={footage}
      onClose={onClose}
      fields={() => ({
        tempo: numberField('Tempo (bpm)', trimDecimals(tempo, 2), 20, 400),
        first: numberField('A beat at (s)', trimDecimals(Math.max(0, here), 3), 0, 1e6, 'the playhead, unless changed'),
        bar: choiceField('Beats per bar', '4', [
          { value: '4', label: '4' },
          { value: '3', label: '3' },
          { value: '0', label: 'No bars' },
        ]),
      })}
      moments={({ tempo: bpm, first, bar }) => {
        const beats = evenGrid(bpm, first, positionSeconds(footage.source, sourceFrames(footage.source)));
        const known = beats.findIndex((beat) => Math.abs(beat - first) < 1e-6);
        return countedBeats(beats, Number(bar), Math.max(0, known));
      }}
    >
      {(set) => (
        <View className="flex-row items-center gap-3">
          <Button label="Tap tempo" onPress={() => tap(set)} />
          <Text role="status" className="min-w-0 flex-1 font-sans text-[13px] text-quiet">
            {tapped ? tempoWords(tapped) : 'Tap at least twice, on the beat.'}
          </Text>
        </View>
      )}
    </MadeSheet>
  );
}
