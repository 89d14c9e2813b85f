import type { RetimeMap } from '@hastig/contract';
import {
  firstFrame,
  formatSourceFrame,
  frameCount,
  heldFrame,
  parseSourceFrame,
  setFirstFrame,
  setLastFrame,
  trimEnd,
  trimStart,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { EditSheet } from './edit-sheet';
import type { SheetProps } from './form-sheet';

/** First and last source frame: typed, or taken from the playhead. */
export function TrimSheet(props: SheetProps) {
  const { map } = props;
  const { playhead, unit } = useSession('playhead', 'unit');
  const [now] = useState(() => ({ first: heldFrame(map, 0), last: heldFrame(map, frameCount(map) - 1) }));
  const [first, setFirst] = useState(formatSourceFrame(now.first, unit));
  const [last, setLast] = useState(formatSourceFrame(now.last, unit));
  const [cut, setCut] = useState<{ from?: number; to?: number }>({});
  const [a, b] = [parseSourceFrame(first, unit), parseSourceFrame(last, unit)];
  const edit = useMemo(() => {
    if (!a.ok || !b.ok) return undefined;
    return (before: RetimeMap) => {
      let after = before;
      if (cut.to !== undefined) after = trimEnd(after, cut.to);
      else if (b.value !== now.last) after = setLastFrame(after, b.value);
      if (cut.from !== undefined) after = trimStart(after, cut.from);
      else if (a.value !== now.first) after = setFirstFrame(after, a.value);
      return after;
    };
  }, [a.ok && a.value, b.ok && b.value, cut]);
  const take = (side: 'from' | 'to'): void => {
    const shown = formatSourceFrame(heldFrame(map, playhead), unit);
    if (side === 'from') setFirst(shown);
    else setLast(shown);
    setCut({ ...cut, [side]: side === 'from' ? playhead : playhead + 1 });
  };
  return (
    <EditSheet title="First and last frame" label="trim" edit={edit} {...props}>
      <View className="flex-row gap-3">
        <Field
          label="First source frame"
          value={first}
          onChange={(text) => {
            setFirst(text);
            setCut(({ to }) => (to === undefined ? {} : { to }));
          }}
          fault={a.ok ? undefined : a.reason}
        />
        <Field
          label="Last source frame"
          value={last}
          onChange={(text) => {
            setLast(text);
            setCut(({ from }) => (from === undefined ? {} : { from }));
          }}
          fault={b.ok ? undefined : b.reason}
        />
      </View>
      <View className="flex-row gap-3">
        <Button label="Start at playhead" onPress={() => take('from')} />
        <Button label="End at playhead" onPress={() => take('to')} />
      </View>
      <Text className="font-sans text-[12px] text-quiet">{`The source has frames ${firstFrame(unit)} to ${map.sourceFrames - 1 + firstFrame(unit)}.`}</Text>
    </EditSheet>
  );
}
