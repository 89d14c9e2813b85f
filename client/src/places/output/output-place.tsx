import type { Rate } from '@hastig/contract';
import {
  clipProgram,
  findSource,
  formatRate,
  formatTime,
  pictureOf,
  picturePlan,
  pictureSize,
  programOf,
  rateKey,
  sameRate,
  SEQUENCE,
  sourcesOf,
  standardRates,
} from '@hastig/core';
import {
  listRenders,
  renderFormats,
  renderQualities,
  type RenderFormat,
  type RenderJob,
  type RenderQuality,
  type StoredRender,
} from '@hastig/engine';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { renderClip } from '../../store/render-clip';
import { openClip, sourceLocations } from '../../store/selectors';
import { FormFields } from '../../form/form-fields';
import { choiceField, type Specs, type Texts } from '../../form/specs';
import { useEntries } from '../../form/use-entries';
import { Interchange } from './interchange';
import { RenderFoot } from './render-foot';
import { RenderList } from './render-list';
import { useEstimate } from './use-estimate';

const even = (pixels: number): number => Math.max(2, 2 * Math.round(pixels / 2));

/** Sizes to choose from: the source's own, and smaller ones of the same shape. */
function sizesOf(width: number, height: number): { value: string; label: string }[] {
  const sizes = [[even(width), even(height)]];
  for (const lines of [1080, 720, 540, 360]) {
    if (lines < Math.min(width, height)) {
      const scale = lines / Math.min(width, height);
      sizes.push([even(width * scale), even(height * scale)]);
    }
  }
  return sizes.map(([w, h]) => ({ value: `${w}x${h}`, label: `${w} × ${h}` }));
}

// Characters that file systems or the browser's storage do not take in names.
const nameFault = (name: string): string | undefined =>
  name.trim() === ''
    ? 'is empty'
    : /[/\\:*?"<>|]/.test(name)
      ? 'must not contain / \\ : * ? " < > |'
      : name.length > 120
        ? 'is too long'
        : undefined;

interface RenderFieldsOf {
  name: string;
  rates: readonly Rate[];
  width: number;
  height: number;
  audible: boolean;
  /** What it can become; the first unless another is chosen. */
  formats: readonly RenderFormat[];
}

const formatLabels: Readonly<Record<RenderFormat, string>> = {
  mp4: 'MP4',
  webm: 'WebM',
  wav: 'WAV, sound only',
};

const pictureWords = (format: RenderFormat, sound: boolean): string =>
  format === 'webm' ? `WebM, VP9${sound ? ' and Opus' : ''}` : `MP4, H.264${sound ? ' and AAC' : ''}`;

/** What is asked of a file; of sound alone only its name. */
function renderFields({ name, rates, width, height, audible, formats }: RenderFieldsOf) {
  const when = ({ format }: Texts): boolean => format !== 'wav';
  const sizes = sizesOf(width, height);
  return {
    name: {
      kind: 'words',
      label: 'File name',
      initial: name.replace(/[/\\:*?"<>|]/g, ' '),
      hint: (text: string, { format }: Texts) => `${text.trim() || name}.${format}`,
      fault: nameFault,
    },
    format: {
      ...choiceField<RenderFormat>(
        'Format',
        formats[0]!,
        formats.map((value) => ({ value, label: formatLabels[value] })),
      ),
      when: () => formats.length > 1,
    },
    rate: {
      ...choiceField(
        'Frame rate',
        rateKey(rates[0]!),
        rates.map((rate) => ({ value: rateKey(rate), label: formatRate(rate) })),
      ),
      when,
    },
    size: { ...choiceField('Frame size', sizes[0]!.value, sizes), when },
    quality: {
      ...choiceField<RenderQuality>(
        'Quality',
        'high',
        renderQualities.map((value) => ({ value, label: value.replace('-', ' ') })),
      ),
      when,
    },
    sound: {
      ...choiceField('Sound', 'yes', [
        { value: 'yes', label: 'Follows speed' },
        { value: 'no', label: 'None' },
      ]),
      when: (texts: Texts) => audible && when(texts),
    },
  } as const satisfies Specs;
}

/** What becomes a file: a clip with all of its timing, or the whole sequence. */
function useRenderTarget(clipId: string | undefined) {
  const project = useAppSelector((state) => state.project.document)!;
  const open = useAppSelector((state) => (clipId ? openClip(state, clipId) : undefined));
  return useMemo(() => {
    const program = open ? clipProgram(project, open.clip, open.map) : programOf(project, SEQUENCE);
    const { width, height } = open ? pictureSize(project, open.clip) : project.sequence;
    const facts = sourcesOf(program).flatMap((id) => findSource(project, id)?.facts ?? []);
    const audible = facts.some(({ audio }) => audio);
    const soundAlone = facts.length > 0 && facts.every((one) => !pictureOf(one));
    const formats = renderFormats.filter((format) => (format === 'wav' ? audible : !soundAlone));
    return { name: open?.clip.name ?? project.name, program, width, height, audible, formats };
  }, [project, open]);
}

/** The place where a clip, or the sequence, becomes a file. */
export function OutputPlace({ clipId }: { clipId?: string }) {
  const { name, program, width, height, audible, formats } = useRenderTarget(clipId);
  const locations = useAppSelector(sourceLocations);
  const unit = useAppSelector((state) => state.session.unit);
  const dispatch = useAppDispatch();
  const { outcome } = useAppSelector((state) => state.render);
  const [renders, setRenders] = useState<StoredRender[]>([]);
  const choices = [program.rate, ...standardRates.filter((rate) => !sameRate(rate, program.rate))];
  const form = useEntries(() => renderFields({ name, rates: choices, width, height, audible, formats }));
  const { values, faults, texts } = form;
  const format = texts.format as RenderFormat;

  const refresh = useCallback(() => void listRenders().then(setRenders, () => setRenders([])), []);
  // Anew when a render has ended, too.
  useEffect(refresh, [refresh, outcome]);
  const rateOf = (key: string): Rate => choices.find((rate) => rateKey(rate) === key) ?? program.rate;
  const plan = picturePlan(program, rateOf(texts.rate!));
  const empty = program.length === 0;

  const orderOf = (): Omit<RenderJob, 'target'> | undefined => {
    if (!values) return undefined;
    const [wide, high] = values.size.split('x').map(Number) as [number, number];
    const needed = Object.fromEntries(sourcesOf(program).map((id) => [id, locations[id]!]));
    return {
      ...{ format, program, sources: needed, rate: rateOf(values.rate), width: wide, height: high },
      ...{ quality: values.quality, sound: values.sound === 'yes' },
    };
  };
  const start = (): void => {
    const order = orderOf();
    if (values && order) void dispatch(renderClip(`${values.name.trim()}.${format}`, order));
  };

  // The field says it too, but may be out of sight.
  const wrong = faults.name ? `File name ${faults.name}` : undefined;
  const what = empty
    ? 'The timeline is empty.'
    : format === 'wav'
      ? `WAV, 48 kHz, 24 bit, stereo: ${formatTime(program.length, program.rate, unit)}`
      : `${pictureWords(format, audible && texts.sound === 'yes')}: ${plan.count} frames, ${formatTime(plan.count, plan.rate, unit)}`;

  const { words, busy, begin } = useEstimate(`${what} ${texts.size} ${texts.quality}`);
  const guess = (): void => {
    const order = orderOf();
    if (order) begin({ ...order, target: { to: 'storage', name: '' } });
  };

  return (
    <View className="min-h-0 flex-1">
      <ScrollView className="min-h-0 flex-1" contentContainerClassName="items-center px-4 py-4">
        <View className="w-full max-w-[720px] gap-4">
          <FormFields {...form} onChange={(entry, text) => form.set({ [entry]: text })} />
          <RenderList renders={renders} onChanged={refresh} />
          {clipId ? null : <Interchange />}
        </View>
      </ScrollView>
      <RenderFoot
        {...{ what: wrong ?? what, renders, empty, estimated: words, estimating: busy }}
        onRender={start}
        onEstimate={guess}
      />
    </View>
  );
}
