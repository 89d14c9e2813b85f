import type { BeatAnalysis, CountedBeats } from '@hastig/engine';
import { Text } from 'react-native';
import { tempoWords } from '../../../beats/beat-words';
import { countedBeats } from '../../../beats/made-markers';
import { choiceField, countField, onlyWhen } from '../../../form/specs';
import { SheetFrame } from '../../../ui/sheet-frame';
import type { BeatsSheetProps } from '../commands/context';
import { Analysed } from '../../../beats/analysed';
import { foundIn } from '../../../beats/use-analysis';
import { MadeSheet } from '../../../beats/made-sheet';

/** Half and twice what a reading counts, where no other reading does. */
function levelsOf(readings: readonly CountedBeats[]): { value: string; label: string; reading: CountedBeats }[] {
  return readings.map((reading, index) => ({ value: String(index), label: tempoWords(reading.tempo), reading }));
}

/** Beats as they were found: the level they are counted at, and the bars they make. */
export function FindBeatsSheet({ music, state, onClose }: BeatsSheetProps) {
  return (
    <Analysed title="Find beats" {...foundIn(state)} onClose={onClose}>
      {(analysis) => <Readings {...{ analysis, music, onClose }} />}
    </Analysed>
  );
}

function Readings({
  analysis,
  music,
  onClose,
}: Pick<BeatsSheetProps, 'music' | 'onClose'> & { analysis: BeatAnalysis }) {
  const levels = levelsOf(analysis.readings.filter(({ steady }) => steady));
  const best = levels[0];
  if (!best) {
    return (
      <SheetFrame title="Find beats" onClose={onClose}>
        <Text role="status" className="font-sans text-[14px] text-quiet">
          No steady beat found. Tap it, or set a tempo with Even grid.
        </Text>
      </SheetFrame>
    );
  }
  const [bars] = best.reading.bars;
  return (
    <MadeSheet
      title="Find beats"
      label="find beats"
      set="Beats"
      music={music}
      onClose={onClose}
      fields={() => ({
        level: choiceField('Tempo (likeliest first)', '0', levels),
        bar: choiceField('Beats per bar', String(bars?.beats ?? 4), [
          { value: '4', label: '4' },
          { value: '3', label: '3' },
          { value: '2', label: '2' },
          { value: '0', label: 'No bars' },
        ]),
        first: onlyWhen(
          countField('First downbeat', String((bars?.first ?? 0) + 1), 1, 'which beat'),
          'bar',
          '4',
          '3',
          '2',
        ),
      })}
      moments={({ level, bar, first }) => {
        const { reading } = levels[Number(level)] ?? best;
        return countedBeats(reading.beats, Number(bar), first - 1, reading.strengths);
      }}
    />
  );
}
