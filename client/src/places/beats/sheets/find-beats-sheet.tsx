import { doubled, everyNth, type BeatAnalysis, type CountedBeats } from '@hastig/core';
import { foundTempoWords, likelyWords } from '../../../beats/beat-words';
import { countedBeats } from '../../../beats/made-markers';
import { choiceField, countField, onlyWhen } from '../../../form/specs';
import { EmptySheet } from '../../../ui/empty-sheet';
import type { BeatsSheetProps } from '../commands/context';
import { Analysed } from '../../../beats/analysed';
import { MadeSheet } from '../../../beats/made-sheet';

/** The ways to count that are offered: of two at one tempo the second lies off the beat of the first; a third says nothing new. */
function levelsOf(readings: readonly CountedBeats[]): { value: string; label: string; reading: CountedBeats }[] {
  const times = new Map<string, number>();
  return readings.flatMap((reading, index) => {
    const tempo = foundTempoWords(reading);
    const before = times.get(tempo) ?? 0;
    times.set(tempo, before + 1);
    if (before > 1) return [];
    const words = [tempo, before === 1 ? 'off-beat' : '', likelyWords(reading.score)];
    return [{ value: String(index), label: words.filter((word) => word !== '').join(', '), reading }];
  });
}

/** Half as many beats as were found, those, or twice as many. */
type Level = 'half' | 'found' | 'double';

type Timing = 'even' | 'played';

/** Beats at a level, from the first downbeat on where that is not the one they were found at. */
function atLevel(
  { beats, strengths }: Pick<CountedBeats, 'beats' | 'strengths'>,
  level: Level,
  first: number,
): Pick<CountedBeats, 'beats' | 'strengths'> {
  if (level === 'found') return { beats, strengths };
  const [from, plain] = [beats.slice(first), strengths.slice(first)];
  if (level === 'half') return { beats: everyNth(from, 2), strengths: plain.filter((_, index) => index % 2 === 0) };
  return {
    beats: doubled(from),
    // What lies between two beats is no plainer than the weaker of them.
    strengths: plain.flatMap((one, index) => (index === 0 ? [one] : [Math.min(one, plain[index - 1]!) / 2, one])),
  };
}

const METERS = ['2', '3', '4', '5', '6', '7'] as const;

/** Beats as they were found: the level they are counted at, and the bars they make. */
export function FindBeatsSheet({ footage, state, onClose }: BeatsSheetProps) {
  return (
    <Analysed title="Find beats" {...state} onClose={onClose}>
      {(analysis) => <Readings {...{ analysis, footage, onClose }} />}
    </Analysed>
  );
}

function Readings({
  analysis,
  footage,
  onClose,
}: Pick<BeatsSheetProps, 'footage' | 'onClose'> & { analysis: BeatAnalysis }) {
  const levels = levelsOf(analysis.readings.filter(({ steady }) => steady));
  const best = levels[0];
  if (!best) {
    return (
      <EmptySheet
        title="Find beats"
        words="No steady beat found. Tap it, or set a tempo with Even grid."
        onClose={onClose}
      />
    );
  }
  const [bars] = (best.reading.even ?? best.reading).bars;
  return (
    <MadeSheet
      title="Find beats"
      label="find beats"
      set="Beats"
      footage={footage}
      onClose={onClose}
      fields={() => ({
        level: { ...choiceField('Tempo (likeliest first)', best.value, levels), short: true },
        count: {
          ...choiceField<Level>('Level', 'found', [
            { value: 'half', label: 'Half' },
            { value: 'found', label: 'As found' },
            { value: 'double', label: 'Double' },
          ]),
          short: true,
        },
        bar: {
          ...choiceField('Beats per bar', String(bars?.beats ?? 4), [
            ...METERS.map((value) => ({ value, label: value })),
            { value: '0', label: 'No bars' },
          ]),
          short: true,
        },
        first: onlyWhen(
          countField('First downbeat', String((bars?.first ?? 0) + 1), 1, 'number of the beat'),
          'bar',
          ...METERS,
        ),
        timing: {
          ...choiceField<Timing>('Timing', 'even', [
            { value: 'even', label: 'Even' },
            { value: 'played', label: 'As played' },
          ]),
          short: true,
          when: ({ level }) => levels.find(({ value }) => value === level)?.reading.even !== undefined,
        },
      })}
      moments={({ level, timing, count, bar, first }) => {
        const { reading } = levels.find(({ value }) => value === level) ?? best;
        const counted = (timing === 'even' ? reading.even : undefined) ?? reading;
        const { beats, strengths } = atLevel(counted, count, first - 1);
        return countedBeats(beats, Number(bar), count === 'found' ? first - 1 : 0, strengths);
      }}
    />
  );
}
