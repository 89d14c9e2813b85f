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
import { DenseContext, TapNumber } from '../../../ui/tap-number';
import type { PaceCommandId } from '../commands';
import { keyWords } from '../curve/handles';
import { interpolationName } from './table-text';

/** Pixels; the same for all, so that a list of thousands knows where each row is. One line, or two where a finger taps. */
export const rowHeight = (line: boolean): number => (line ? 32 : 86);

interface RowProps {
  clipId: string;
  map: RetimeMap;
  entry: Key;
  /** Whether all stands in one line. */
  line: boolean;
  onCommand(id: PaceCommandId): void;
}

/** A key's numbers and, beneath, the part that follows it. */
export const LedgerRow = memo(function LedgerRow({ clipId, map, entry, line, onCommand }: RowProps) {
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
    <div role="cell" data-cell={`${index},${column}`} style={{ flex: columns[column]!.flex, minWidth: 0 }}>
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

  const numbers = (
    <>
      <div role="rowheader">
        <Pressable
          role="button"
          accessibilityLabel={`Go to key ${index + 1}`}
          onPress={select}
          className={`items-center justify-center rounded-lg hover:bg-line ${line ? 'h-8 w-7' : 'h-11 w-8'}`}
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
    </>
  );
  const small = line ? ({ size: 'low' } as const) : ({ narrow: true } as const);
  const part = (
    <>
      <View className={line ? 'w-[84px]' : 'min-w-0 flex-1 flex-row'}>
        {span ? (
          <Pressable
            role="button"
            accessibilityLabel={`Interpolation after key ${index + 1}: ${interpolationName(span)}`}
            onPress={() => {
              dispatch(spanSelected(index));
              onCommand(span.of === 'position' ? 'course' : 'ease');
            }}
            className={`justify-center rounded-lg px-1 hover:bg-line ${line ? 'h-8' : 'min-h-[40px]'}`}
          >
            <Text numberOfLines={1} className="font-sans text-[13px] text-quiet">
              {interpolationName(span)}
            </Text>
          </Pressable>
        ) : null}
      </View>
      <Slot line={line} shown={inner}>
        <IconButton
          {...small}
          label={joined ? `Split key ${index + 1}` : `Join key ${index + 1}`}
          icon={Link}
          pressed={joined}
          onPress={() => {
            dispatch(spanSelected(index));
            if (joined) onCommand('edit-key');
            else set('join a key', (now) => joinKey(now, index, keeps));
          }}
        />
      </Slot>
      <IconButton
        {...small}
        label={pinned ? `Unpin key ${index + 1}` : `Pin key ${index + 1}`}
        icon={Pin}
        pressed={pinned}
        onPress={() => set(pinned ? 'unpin' : 'pin', (now) => (pinned ? unpin(now, output) : pin(now, output)))}
      />
      <Slot line={line} shown={!!span}>
        <IconButton
          {...small}
          label={span?.locked ? `Unlock part after key ${index + 1}` : `Lock part after key ${index + 1}`}
          icon={span?.locked ? Lock : LockOpen}
          pressed={!!span?.locked}
          onPress={() => set(span?.locked ? 'unlock' : 'lock', (now) => lockPart(now, index, !span?.locked))}
        />
      </Slot>
      <Slot line={line} shown={inner}>
        <IconButton
          {...small}
          label={`Remove key ${index + 1}`}
          icon={Trash}
          onPress={() => set('remove a key', (now) => removeKey(now, index))}
        />
      </Slot>
    </>
  );

  return (
    <View
      role="row"
      aria-label={`Key ${index + 1} of ${count + 1}, ${keyWords(map, entry)}`}
      className={`border-b border-line px-1 ${line ? 'flex-row items-center' : ''} ${selected ? 'bg-raised' : ''}`}
      style={{ height: rowHeight(line) }}
    >
      <DenseContext value={true}>
        <View className={line ? 'min-w-0 flex-1 flex-row items-center' : 'flex-row items-center'}>{numbers}</View>
      </DenseContext>
      <View role="cell" className={`flex-row items-center ${line ? '' : 'pl-8'}`}>
        {part}
      </View>
    </View>
  );
});

/** A column that some keys have nothing in. */
function Slot({ line, shown, children }: { line: boolean; shown: boolean; children: React.ReactNode }) {
  return <View className={line ? 'w-7' : 'w-9'}>{shown ? children : null}</View>;
}

/** The columns of numbers, and how wide they are beside one another. */
const columns = [
  { label: 'Output', flex: 1.5 },
  { label: 'Source', flex: 1 },
  { label: 'Speed in', flex: 1 },
  { label: 'Speed out', flex: 1 },
] as const;

/** What the columns are called. */
export function LedgerHead({ line }: { line: boolean }) {
  const name = (text: string) => (
    <Text role="columnheader" numberOfLines={1} className="text-center font-sans text-[11px] text-quiet">
      {text}
    </Text>
  );
  return (
    <View role="row" className="h-6 flex-none flex-row items-center border-b border-line px-1">
      <View className={line ? 'w-7' : 'w-8'} />
      {columns.map(({ label, flex }) => (
        <View key={label} style={{ flex }} className="min-w-0">
          {name(label)}
        </View>
      ))}
      {line ? <View className="w-[196px] items-start pl-1">{name('Interpolation')}</View> : null}
    </View>
  );
}
