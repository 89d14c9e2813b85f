import { apart, strongest, type OnsetBand } from '@hastig/core';
import { choiceField, countField, numberField } from '../../../form/specs';
import type { BeatsSheetProps } from '../commands/context';
import { Analysed } from '../../../beats/analysed';
import { MadeSheet } from '../../../beats/made-sheet';

/** Hits of all sound or of one band: the strongest of them, no nearer to one another than a gap. */
export function FindHitsSheet({ footage, state, onClose }: BeatsSheetProps) {
  return (
    <Analysed title="Find hits" {...state} onClose={onClose}>
      {({ onsets }) => (
        <MadeSheet
          title="Find hits"
          label="find hits"
          set="Hits"
          footage={footage}
          onClose={onClose}
          fields={() => ({
            band: choiceField<OnsetBand | 'all'>('Band', 'all', [
              { value: 'all', label: 'All' },
              { value: 'low', label: 'Low' },
              { value: 'mid', label: 'Mid' },
              { value: 'high', label: 'High' },
            ]),
            sensitivity: numberField('Sensitivity (%)', '50', 0, 100),
            gap: numberField('Least gap (ms)', '120', 0, 10_000),
            most: countField('Strongest only', '200', 1, 'how many at most'),
          })}
          moments={({ band, sensitivity, gap, most }) => {
            const plain = onsets[band].filter(({ strength }) => strength >= floorOf(sensitivity));
            return strongest(
              apart(plain, ({ time }) => time, gap / 1000),
              most,
            ).map(({ time, strength }) => ({
              seconds: time,
              kind: 'hit',
              strength,
            }));
          }}
        />
      )}
    </Analysed>
  );
}

/** The strength below which a hit does not count: next to nothing at 100%, that of the very strongest at 0%. */
const floorOf = (sensitivity: number): number => (1 - sensitivity / 100) ** 2;
