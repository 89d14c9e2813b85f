import type { RetimeMap } from '@hastig/contract';
import {
  formatMoment,
  formatPercent,
  formatSourceFrame,
  isJoined,
  joinKey,
  lockPart,
  moveKey,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  pin,
  pinAt,
  removeKey,
  setKeySpeeds,
  slipKey,
  unpin,
  type Key,
  type Parsed,
} from '@hastig/core';
import Link from 'lucide-react-native/icons/link';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import Pin from 'lucide-react-native/icons/pin';
import Trash from 'lucide-react-native/icons/trash';
import { memo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { spanSelected } from '../../../store/session-slice';
import { IconButton } from '../../../ui/button';
import { TapNumber } from '../../../ui/tap-number';
import type { PaceCommandId } from '../commands';
import { keyWords } from '../curve/handles';
import { courseName } from './table-text';

/** Pixels; the same for all, so that a list of thousands knows where each row is. */
export const ROW_HEIGHT = 100;

interface RowProps {
  clipId: string;
  map: RetimeMap;
  entry: Key;
  onCommand(id: PaceCommandId): void;
}

/** A key's numbers and, beneath, the part that follows it. */
export const LedgerRow = memo(function LedgerRow({ clipId, map, entry, onCommand }: RowProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit, keeps } = useSession('unit', 'keeps');
  const selected = useAppSelector((state) => state.session.selectedSpan === entry.index);
  const { index, output, source, speedIn, speedOut } = entry;
  const count = map.spans.length;
  const inner = index > 0 && index < count;
  const joined = inner && isJoined(map, index);
  const pinned = !!pinAt(map, output);
  const span = map.spans[index];
  const rate = map.outputRate;

  const set = (label: string, edit: (map: RetimeMap) => RetimeMap): boolean => dispatch(retime(label, clipId, edit));
  const enter = (parse: (text: string) => Parsed, apply: (value: number) => boolean) => (text: string) => {
    const parsed = parse(text);
    if (!parsed.ok) return parsed.reason;
    return apply(parsed.value) ? undefined : 'isn’t possible: see above';
  };
  const setOutput = (value: number): boolean => set('move a key', (now) => moveKey(now, index, value));
  const setSource = (value: number): boolean => set('slip a key', (now) => slipKey(now, index, value));
  const setSpeeds = (side: 'in' | 'out') => (value: number) =>
    set('set a key’s speed', (now) =>
      setKeySpeeds(now, index, joined ? { in: value, out: value } : { [side]: value }, keeps),
    );
  const select = (): void => {
    dispatch(spanSelected(Math.min(index, count - 1)));
    seek(Math.ceil(output - 1e-6));
  };
  const cell = (column: number, node: React.ReactNode) => (
    <div role="cell" data-cell={`${index},${column}`} style={{ flex: 1, minWidth: 0 }}>
      {node}
    </div>
  );
  const speed = (side: 'in' | 'out', value: number | undefined) =>
    value === undefined ? (
      <View className="flex-1" />
    ) : (
      <TapNumber
        label={`Speed ${side}`}
        text={formatPercent(value)}
        onEnter={enter(parseSpeed, setSpeeds(side))}
        onStep={(by) => void setSpeeds(side)(Math.round((value + by * 0.01) * 1000) / 1000)}
        compact
      />
    );

  return (
    <View
      role="row"
      aria-label={`Key ${index + 1} of ${count + 1}, ${keyWords(map, entry)}`}
      className={`border-b border-line px-1 ${selected ? 'bg-raised' : ''}`}
      style={{ height: ROW_HEIGHT }}
    >
      <View className="flex-row items-center">
        <div role="rowheader">
          <Pressable
            role="button"
            accessibilityLabel={`Go to key ${index + 1}`}
            onPress={select}
            className="h-11 w-8 items-center justify-center rounded-lg hover:bg-line"
          >
            <Text className="font-mono text-[13px] text-quiet">{index + 1}</Text>
          </Pressable>
        </div>
        {cell(
          0,
          <TapNumber
            label="Output"
            text={formatMoment(output, rate, unit).replace(/^00:/, '')}
            entry={formatMoment(output, rate, unit)}
            onEnter={enter((text) => parseMoment(text, rate, unit), setOutput)}
            onStep={(by) => void setOutput(Math.round(output) + by)}
            compact
          />,
        )}
        {cell(
          1,
          <TapNumber
            label="Source"
            text={formatSourceFrame(Math.round(source * 100) / 100, unit)}
            entry={formatSourceFrame(source, unit)}
            onEnter={enter((text) => parseSourceFrame(text, unit), setSource)}
            onStep={(by) => void setSource(Math.round(source) + by)}
            compact
          />,
        )}
        {cell(2, speed('in', speedIn))}
        {cell(3, speed('out', speedOut))}
      </View>
      <View role="cell" className="flex-row items-center pl-8">
        <View className="min-w-0 flex-1 flex-row">
          {span ? (
            <Pressable
              role="button"
              accessibilityLabel={`Interpolation after key ${index + 1}: ${courseName(span)}`}
              onPress={() => {
                dispatch(spanSelected(index));
                onCommand(span.of === 'position' ? 'course' : 'ease');
              }}
              className="min-h-[40px] justify-center rounded-lg px-2 hover:bg-line"
            >
              <Text numberOfLines={1} className="font-sans text-[13px] text-quiet">
                {courseName(span)}
              </Text>
            </Pressable>
          ) : null}
        </View>
        {inner ? (
          <IconButton
            label={joined ? `Split key ${index + 1}` : `Join key ${index + 1}`}
            icon={Link}
            pressed={joined}
            onPress={() => {
              dispatch(spanSelected(index));
              if (joined) onCommand('edit-key');
              else set('join a key', (now) => joinKey(now, index, keeps));
            }}
          />
        ) : null}
        <IconButton
          label={pinned ? `Unpin key ${index + 1}` : `Pin key ${index + 1}`}
          icon={Pin}
          pressed={pinned}
          onPress={() => set(pinned ? 'unpin' : 'pin', (now) => (pinned ? unpin(now, output) : pin(now, output)))}
        />
        {span ? (
          <IconButton
            label={span.locked ? `Unlock part after key ${index + 1}` : `Lock part after key ${index + 1}`}
            icon={span.locked ? Lock : LockOpen}
            pressed={!!span.locked}
            onPress={() => set(span.locked ? 'unlock' : 'lock', (now) => lockPart(now, index, !span.locked))}
          />
        ) : null}
        {inner ? (
          <IconButton
            label={`Remove key ${index + 1}`}
            icon={Trash}
            onPress={() => set('remove a key', (now) => removeKey(now, index))}
          />
        ) : null}
      </View>
    </View>
  );
});
