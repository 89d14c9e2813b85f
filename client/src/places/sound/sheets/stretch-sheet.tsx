import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  findClip,
  findSource,
  formatPercent,
  formatTime,
  holdPins,
  mapOf,
  rangeSpeed,
  positionSeconds,
  rateToNumber,
  spacingOf,
  stretchRange,
  trimDecimals,
  withTiming,
} from '@hastig/core';
import { useMemo, useState, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { FormFields } from '../../../form/form-fields';
import { useFormContext } from '../../../form/project-form';
import { ProjectSheet } from '../../../form/project-sheet';
import { readForm } from '../../../form/read';
import { countField, factorField, lengthField, numberField, type Specs } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import type { SoundSheetProps } from '../commands/context';

type Extent = 'clip' | 'behind' | 'marked';

/** A length in numbers: now, and as it will be; each of them moves the others. */
export function StretchSheet({ clipId, map, onClose }: SoundSheetProps) {
  const { marks, playhead } = useSession('marks', 'playhead');
  const { length } = compile(map);
  const marked = marks.from !== null || marks.to !== null;
  const behind = playhead > 0 && playhead < length - 1;
  const [at] = useState(playhead);
  const [extent, setExtent] = useState<Extent>(marked ? 'marked' : behind ? 'behind' : 'clip');
  const ranges: Record<Extent, { from: number; to: number }> = {
    clip: { from: 0, to: length },
    behind: { from: at, to: length },
    marked: { from: marks.from ?? 0, to: Math.min(length, marks.to ?? length) },
  };
  const range = ranges[extent];
  const options = [
    { value: 'clip' as const, label: 'Clip' },
    ...(behind ? [{ value: 'behind' as const, label: 'From playhead on' }] : []),
    ...(marked ? [{ value: 'marked' as const, label: 'In to out' }] : []),
  ];
  const picker =
    options.length > 1 ? <Choice label="Apply to" value={extent} onChange={setExtent} options={options} /> : null;
  return <Numbers key={`${range.from} ${range.to}`} {...{ clipId, map, range, picker, onClose }} />;
}

interface NumbersProps {
  clipId: string;
  map: RetimeMap;
  range: { from: number; to: number };
  picker: ReactNode;
  onClose(): void;
}

function Numbers({ clipId, map, range, picker, onClose }: NumbersProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const context = useFormContext(clipId);
  const { unit } = context;
  const clip = findClip(project, clipId)!;
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const frames = range.to - range.from;
  const now = rangeSpeed(map, range);
  const perSecond = rateToNumber(map.outputRate);
  const { sampleRate } = project.sequence;
  // Beats that were marked in the source say its tempo.
  const beats = (source?.markers ?? []).filter(({ kind }) => kind === 'beat' || kind === 'downbeat');
  const spacing = source && spacingOf(beats.map((one) => positionSeconds(source, one.at)).sort((a, b) => a - b));
  const tempo = spacing && spacing.typical > 0 ? 60 / spacing.typical : undefined;

  const textsFor = (ratio: number): Record<string, string> => ({
    length: formatTime(frames * ratio, map.outputRate, unit),
    samples: String(Math.round(((frames * ratio) / perSecond) * sampleRate)),
    speed: formatPercent(Math.abs(now) / ratio),
    ratio: trimDecimals(ratio, 5),
    ...(tempo && { tempo: trimDecimals((tempo * Math.abs(now)) / ratio, 3) }),
  });
  const [ratio, setRatio] = useState(1);
  const { specs, texts, faults, set } = useEntries((): Specs => {
    const initial = textsFor(1);
    return {
      length: { ...lengthField('Duration', initial.length!, map.outputRate, unit), long: true },
      samples: countField('Samples', initial.samples!, 1),
      speed: factorField('Speed (mean)', initial.speed!),
      ratio: numberField('Times as long', initial.ratio!, 0.001, 1000),
      ...(tempo && { tempo: numberField('Tempo (bpm)', initial.tempo!, 1, 10_000) }),
    };
  }, context);
  const ratioOf = (name: string, value: number): number => {
    if (name === 'length') return value / frames;
    if (name === 'samples') return ((value / sampleRate) * perSecond) / frames;
    if (name === 'speed') return Math.abs(now) / value;
    return name === 'tempo' ? (tempo! * Math.abs(now)) / value : value;
  };
  const onChange = (name: string, text: string): void => {
    set({ [name]: text });
    const typed = readForm({ [name]: specs[name]! }, { [name]: text }, context).values?.[name];
    if (typeof typed !== 'number') return;
    const next = ratioOf(name, typed);
    if (!(next > 0) || !Number.isFinite(next)) return;
    setRatio(next);
    const { [name]: _own, ...others } = textsFor(next);
    set(others);
  };
  const valid = Object.keys(faults).length === 0;
  const edit = useMemo(
    () =>
      valid
        ? (before: typeof project) => {
            const old = mapOf(before, findClip(before, clipId)!);
            return withTiming(before, clipId, holdPins(old, stretchRange(old, range, frames * ratio)));
          }
        : undefined,
    [valid, ratio, range.from, range.to],
  );
  const was = textsFor(1);
  return (
    <ProjectSheet
      title="Stretch"
      label="stretch"
      edit={edit}
      onClose={onClose}
      outcome={() => `${was.length} → ${textsFor(ratio).length}`}
    >
      {picker}
      <View role="group" aria-label="As it is now" className="flex-row flex-wrap gap-x-4">
        <Text className="font-sans text-[13px] text-quiet">Now</Text>
        {[was.length, `${was.samples} samples`, was.speed, ...(was.tempo ? [`${was.tempo} bpm`] : [])].map((text) => (
          <Text key={text} className="font-mono text-[13px] text-bone">
            {text}
          </Text>
        ))}
      </View>
      <FormFields specs={specs} texts={texts} faults={faults} onChange={onChange} />
    </ProjectSheet>
  );
}
