import type { RetimeMap } from '@hastig/contract';
import { compile, formatTime, spanIndexAt, type OutputRange } from '@hastig/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { useMomentEntry } from './entries';

type Scope = 'part' | 'clip' | 'range';

/**
 * The stretch of output that an edit is about: the part under the playhead (then `part` is its span), the whole clip, or
 * one that is typed.
 */
export function useRange(map: RetimeMap): {
  range: OutputRange | undefined;
  part: number | undefined;
  entry: React.ReactNode;
} {
  const { unit, playhead, selectedSpan } = useAppSelector((state) => state.session);
  const ready = compile(map);
  const [here] = useState(() => selectedSpan ?? spanIndexAt(ready, playhead));
  const index = Math.min(here, ready.count - 1);
  const [scope, setScope] = useState<Scope>('part');
  const [from, to] = [ready.times[index]!, ready.times[index + 1]!];
  const start = useMomentEntry(formatTime(from, map.outputRate, unit), map.outputRate, unit, ready.length);
  const end = useMomentEntry(formatTime(to, map.outputRate, unit), map.outputRate, unit, ready.length);
  const typed = start.value !== undefined && end.value !== undefined ? { from: start.value, to: end.value } : undefined;
  const range = { part: { from, to }, clip: { from: 0, to: ready.length }, range: typed }[scope];
  const entry = (
    <>
      <Choice
        label="What"
        value={scope}
        onChange={setScope}
        options={[
          { value: 'part', label: 'This part' },
          { value: 'clip', label: 'Whole clip' },
          { value: 'range', label: 'From – to' },
        ]}
      />
      {scope === 'range' ? (
        <View className="flex-row gap-3">
          <Field label="From" value={start.text} onChange={start.set} fault={start.fault} />
          <Field label="To" value={end.text} onChange={end.set} fault={end.fault} />
        </View>
      ) : null}
    </>
  );
  return { range, part: scope === 'part' ? index : undefined, entry };
}
