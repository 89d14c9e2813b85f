import type { RetimeMap } from '@hastig/contract';
import { interpolateSpan, toPositions, toSpeeds, trimDecimals, type Interpolation } from '@hastig/core';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { EditSheet } from './edit-sheet';
import { FormSheet, type SheetProps } from './form-sheet';
import { partOf } from '../../../form/read';
import { choiceField } from '../../../form/specs';

function ConvertSheet({ to, ...props }: SheetProps & { to: 'speeds' | 'positions' }) {
  const { map } = props;
  const convert = to === 'speeds' ? toSpeeds : toPositions;
  const { deviation } = useMemo(() => convert(map), [convert, map]);
  const edit = useMemo(() => (now: RetimeMap) => convert(now).map, [convert]);
  const words =
    deviation === 0
      ? 'Exact: no frame moves.'
      : `Between keys, frames move by at most ${trimDecimals(deviation, 4)} source frames. At keys, nothing moves.`;
  return (
    <EditSheet title={`Convert to ${to}`} label={`convert to ${to}`} edit={edit} {...props}>
      <Text className="font-sans text-[14px] text-bone">{words}</Text>
    </EditSheet>
  );
}

export const ToSpeedsSheet = (props: SheetProps) => <ConvertSheet {...props} to="speeds" />;
export const ToPositionsSheet = (props: SheetProps) => <ConvertSheet {...props} to="positions" />;

/** How the position runs through the selected part. */
export function CourseSheet(props: SheetProps) {
  return (
    <FormSheet
      {...props}
      title="Interpolation of this part"
      label="set interpolation"
      fields={() => ({
        how: choiceField<Interpolation>('Interpolation', 'smooth', [
          { value: 'smooth', label: 'Smooth' },
          { value: 'linear', label: 'Linear' },
          { value: 'hold', label: 'Hold' },
        ]),
      })}
      edit={({ how }, context) => {
        const index = partOf(context);
        return (map) => interpolateSpan(map, index, how);
      }}
    />
  );
}
