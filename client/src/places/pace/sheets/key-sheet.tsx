import type { RetimeMap } from '@hastig/contract';
import {
  formatPercent,
  formatSourceFrame,
  formatMoment,
  isJoined,
  keysOf,
  moveKey,
  setKeySpeeds,
  slipKey,
} from '@hastig/core';
import { useSession } from '../../../store/hooks';
import { FormSheet, type SheetProps } from './form-sheet';
import { choiceField, keepsField, momentField, onlyWhen, sourceField, speedField } from '../../../form/specs';

/** All numbers of the selected key, whichever it is meanwhile. */
export function SelectedKeySheet(props: SheetProps) {
  const { selectedSpan } = useSession('selectedSpan');
  if (selectedSpan === null) return null;
  return <KeySheet key={selectedSpan} {...props} index={Math.min(selectedSpan, props.map.spans.length)} />;
}

/** Only what was changed is set. */
function KeySheet({ index, ...props }: SheetProps & { index: number }) {
  const { map } = props;
  const key = keysOf(map)[index]!;
  const inner = index > 0 && index < map.spans.length;
  const joined = inner && isJoined(map, index);
  return (
    <FormSheet
      {...props}
      title={`Key ${index + 1} of ${map.spans.length + 1}`}
      label="set a key"
      fields={({ unit }) => ({
        output: momentField('Output', key.output, map, unit, Number.MAX_SAFE_INTEGER),
        source: sourceField('Source frame', formatSourceFrame(key.source, unit), unit),
        joint: choiceField('Speeds in and out', joined ? 'joined' : 'split', [
          { value: 'joined', label: 'Joined' },
          { value: 'split', label: 'Split' },
        ]),
        in: onlyWhen(speedField('Speed in', formatPercent(key.speedIn ?? key.speedOut ?? 1)), 'joint', 'split'),
        out: speedField(joined ? 'Speed' : 'Speed out', formatPercent(key.speedOut ?? key.speedIn ?? 1)),
        keeps: keepsField,
      })}
      edit={(values, { unit }) =>
        (now) => {
          const shown = (text: string, value: string): boolean => text !== value;
          const speedChanged = (value: number, old: number | undefined): boolean =>
            old !== undefined && shown(formatPercent(value), formatPercent(old));
          let after: RetimeMap = now;
          const both = values.joint === 'joined';
          const speedIn = both ? values.out : values.in;
          const speeds = {
            ...((speedChanged(speedIn, key.speedIn) || (both && !joined)) && { in: speedIn }),
            ...(speedChanged(values.out, key.speedOut) && { out: values.out }),
          };
          after = setKeySpeeds(after, index, speeds, values.keeps);
          if (shown(formatSourceFrame(values.source, unit), formatSourceFrame(key.source, unit))) {
            after = slipKey(after, index, values.source);
          }
          const rate = map.outputRate;
          if (inner && shown(formatMoment(values.output, rate, unit), formatMoment(key.output, rate, unit))) {
            after = moveKey(after, index, values.output);
          }
          return after;
        }}
    />
  );
}
