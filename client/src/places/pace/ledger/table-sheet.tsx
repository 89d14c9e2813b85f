import type { RetimeMap } from '@hastig/contract';
import type { Interpolation } from '@hastig/core';
import { useMemo, useState } from 'react';
import { Text, TextInput, View } from 'react-native';
import { useAppSelector } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import { EditSheet } from '../sheets/edit-sheet';
import type { SheetProps } from '../sheets/form-sheet';
import { fromTable } from './table-text';

interface TableProps extends SheetProps {
  pasted: string;
}

/** A table of keys from a spreadsheet, tried out as it is pasted; anew with each that is. */
export function TableSheet(props: TableProps) {
  return <PastedTable key={props.pasted} {...props} />;
}

function PastedTable({ pasted, ...props }: TableProps) {
  const unit = useAppSelector((state) => state.session.unit);
  const [text, setText] = useState(pasted);
  const [how, setHow] = useState<Interpolation>('smooth');
  const edit = useMemo(
    () => (text.trim() === '' ? undefined : (map: RetimeMap) => fromTable(map, text, unit, how)),
    [text, unit, how],
  );
  return (
    <EditSheet title="Paste a table" label="paste a table" edit={edit} {...props}>
      <View className="gap-1">
        <Text className="font-sans text-[13px] text-quiet">Rows of output and source, copied from a spreadsheet</Text>
        <TextInput
          aria-label="Table"
          multiline
          numberOfLines={6}
          value={text}
          onChangeText={setText}
          autoCorrect={false}
          className="min-h-[120px] rounded-lg border border-line bg-ink p-3 font-mono text-[14px] text-bone focus:border-bone"
        />
      </View>
      <Choice
        label="Interpolation"
        value={how}
        onChange={setHow}
        options={[
          { value: 'smooth', label: 'Smooth' },
          { value: 'linear', label: 'Linear' },
          { value: 'hold', label: 'Hold' },
        ]}
      />
    </EditSheet>
  );
}
