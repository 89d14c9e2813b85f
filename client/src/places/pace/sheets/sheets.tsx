import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  easeNames,
  eases,
  fit,
  formatPercent,
  formatTime,
  frameCount,
  freeze,
  heldFrame,
  parseFrame,
  ramp,
  reverseRange,
  setFirstFrame,
  setLastFrame,
  setPartSpeed,
  setSpeed,
  speedAt,
  trimEnd,
  trimStart,
  type EaseName,
  type FitEnding,
  type RampPlace,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppSelector } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { EditSheet } from './edit-sheet';
import { useLengthEntry, useSpeedEntry } from './entries';
import { useKeeps } from './keeps-choice';
import { useRange } from './range-choice';

export interface SheetProps {
  clipId: string;
  map: RetimeMap;
  onClose(): void;
}

export function SpeedSheet(props: SheetProps) {
  const { map } = props;
  const playhead = useAppSelector((state) => state.session.playhead);
  const { range, part, entry: rangeEntry } = useRange(map);
  const { keeps, entry: keepsEntry } = useKeeps();
  const speed = useSpeedEntry(formatPercent(speedAt(map, range?.from ?? playhead)));
  const edit = useMemo(() => {
    const { value } = speed;
    if (!range || value === undefined) return undefined;
    return (now: RetimeMap) =>
      part === undefined ? setSpeed(now, range, value, keeps) : setPartSpeed(now, part, value, keeps);
  }, [range?.from, range?.to, part, speed.value, keeps]);
  return (
    <EditSheet title="Speed" label="set the speed" edit={edit} {...props}>
      {rangeEntry}
      <Field
        label="Speed"
        value={speed.text}
        onChange={speed.set}
        fault={speed.fault}
        hint="40%, 0.4 or x0.4; a minus plays backwards"
      />
      {keepsEntry}
    </EditSheet>
  );
}

export function RampSheet(props: SheetProps) {
  const { map } = props;
  const { unit, playhead } = useAppSelector((state) => state.session);
  const { keeps, entry: keepsEntry } = useKeeps();
  const before = speedAt(map, Math.max(0, playhead - 1e-6));
  const from = useSpeedEntry(formatPercent(before));
  const to = useSpeedEntry(formatPercent(before === 1 ? 0.5 : 1));
  const length = useLengthEntry('12f', map.outputRate, unit);
  const [ease, setEase] = useState<EaseName>('ease-in-out');
  const [place, setPlace] = useState<RampPlace>('centred');
  const edit = useMemo(() => {
    if (from.value === undefined || to.value === undefined || length.value === undefined) return undefined;
    const options = { at: playhead, frames: length.value, to: to.value, ease: eases[ease], place, keeps };
    // Untouched, the speed before stays exactly what it is, not what its two decimals say.
    const changed = from.text !== formatPercent(before);
    return (now: RetimeMap) => ramp(now, changed ? { ...options, from: from.value! } : options);
  }, [playhead, from.value, from.text, to.value, length.value, ease, place, keeps, before]);
  return (
    <EditSheet
      title={`Ramp at ${formatTime(playhead, map.outputRate, unit)}`}
      label="make a ramp"
      edit={edit}
      {...props}
    >
      <View className="flex-row gap-3">
        <Field label="Speed before" value={from.text} onChange={from.set} fault={from.fault} />
        <Field label="Speed after" value={to.text} onChange={to.set} fault={to.fault} />
        <Field label="Lasts" value={length.text} onChange={length.set} fault={length.fault} />
      </View>
      <Choice
        label="Ease"
        value={ease}
        onChange={setEase}
        options={easeNames.map((value) => ({ value, label: value }))}
      />
      <Choice
        label="Where"
        value={place}
        onChange={setPlace}
        options={[
          { value: 'ending', label: 'Ends here' },
          { value: 'centred', label: 'Around here' },
          { value: 'starting', label: 'Starts here' },
        ]}
      />
      {keepsEntry}
    </EditSheet>
  );
}

export function FreezeSheet(props: SheetProps) {
  const { map } = props;
  const { unit, playhead } = useAppSelector((state) => state.session);
  const length = useLengthEntry('1s', map.outputRate, unit);
  const [keeps, setKeeps] = useState<'content' | 'length'>('content');
  const edit = useMemo(
    () =>
      length.value === undefined
        ? undefined
        : (now: RetimeMap) => freeze(now, playhead, Math.max(1, Math.round(length.value!)), keeps),
    [playhead, length.value, keeps],
  );
  return (
    <EditSheet title={`Freeze source frame ${heldFrame(map, playhead)}`} label="freeze" edit={edit} {...props}>
      <Field label="For" value={length.text} onChange={length.set} fault={length.fault} hint="12f, 1.5s or 1:12" />
      <Choice
        label="What follows"
        value={keeps}
        onChange={setKeeps}
        options={[
          { value: 'content', label: 'Moves back' },
          { value: 'length', label: 'Stays, is covered' },
        ]}
      />
    </EditSheet>
  );
}

export function ReverseSheet(props: SheetProps) {
  const { range, entry } = useRange(props.map);
  const edit = useMemo(
    () => (range ? (now: RetimeMap) => reverseRange(now, range) : undefined),
    [range?.from, range?.to],
  );
  return (
    <EditSheet title="Reverse" label="reverse" edit={edit} {...props}>
      {entry}
    </EditSheet>
  );
}

export function FitSheet(props: SheetProps) {
  const { map } = props;
  const unit = useAppSelector((state) => state.session.unit);
  const length = useLengthEntry(formatTime(frameCount(map), map.outputRate, unit), map.outputRate, unit);
  const [ending, setEnding] = useState<FitEnding>('through');
  const edit = useMemo(
    () =>
      length.value === undefined
        ? undefined
        : (now: RetimeMap) => fit(now, Math.max(1, Math.round(length.value!)), ending),
    [length.value, ending],
  );
  const factor = length.value ? compile(map).length / Math.max(1, Math.round(length.value)) : undefined;
  return (
    <EditSheet title="Fit to a length" label="fit" edit={edit} {...props}>
      <Field
        label="New length"
        value={length.text}
        onChange={length.set}
        fault={length.fault}
        hint={factor === undefined ? undefined : `every speed becomes ${formatPercent(factor)} of what it is`}
      />
      <Choice
        label="The end"
        value={ending}
        onChange={setEnding}
        options={[
          { value: 'through', label: 'Run through' },
          { value: 'last-frame', label: 'Show the last frame' },
        ]}
      />
    </EditSheet>
  );
}

/** First and last source frame: typed, or taken from the playhead. */
export function TrimSheet(props: SheetProps) {
  const { map } = props;
  const playhead = useAppSelector((state) => state.session.playhead);
  const [now] = useState(() => ({ first: heldFrame(map, 0), last: heldFrame(map, frameCount(map) - 1) }));
  const [first, setFirst] = useState(String(now.first));
  const [last, setLast] = useState(String(now.last));
  const [cut, setCut] = useState<{ from?: number; to?: number }>({});
  const [a, b] = [parseFrame(first), parseFrame(last)];
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
    const shown = String(heldFrame(map, playhead));
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
        <Button label="Start at the playhead" onPress={() => take('from')} />
        <Button label="End at the playhead" onPress={() => take('to')} />
      </View>
      <Text className="font-sans text-[12px] text-quiet">{`The source has frames 0 to ${map.sourceFrames - 1}.`}</Text>
    </EditSheet>
  );
}
