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
import { listRenders, renderQualities, type RenderFormat, type RenderQuality, type StoredRender } from '@hastig/engine';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Controller, useForm, useWatch, type Control } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { renderClip } from '../../store/render-clip';
import { openClip, sourceLocations } from '../../store/selectors';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Interchange } from './interchange';
import { RenderFoot } from './render-foot';
import { RenderList } from './render-list';

interface RenderForm {
  name: string;
  rate: string;
  size: string;
  quality: RenderQuality;
  sound: 'yes' | 'no';
}

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

/** What becomes a file: a clip with all of its timing, or the whole sequence. */
function useSubjectOf(clipId: string | undefined) {
  const project = useAppSelector((state) => state.project.document)!;
  const open = useAppSelector((state) => (clipId ? openClip(state, clipId) : undefined));
  return useMemo(() => {
    const program = open ? clipProgram(project, open.clip, open.map) : programOf(project, SEQUENCE);
    const { width, height } = open ? pictureSize(project, open.clip) : project.sequence;
    const facts = sourcesOf(program).flatMap((id) => findSource(project, id)?.facts ?? []);
    const audible = facts.some(({ audio }) => audio);
    const format: RenderFormat = facts.length > 0 && facts.every((one) => !pictureOf(one)) ? 'wav' : 'mp4';
    return { name: open?.clip.name ?? project.name, program, width, height, audible, format };
  }, [project, open]);
}

/** The place where a clip, or the sequence, becomes a file. */
export function OutputPlace({ clipId }: { clipId?: string }) {
  const { name, program, width, height, audible, format } = useSubjectOf(clipId);
  const locations = useAppSelector(sourceLocations);
  const unit = useAppSelector((state) => state.session.unit);
  const dispatch = useAppDispatch();
  const { outcome } = useAppSelector((state) => state.render);
  const [renders, setRenders] = useState<StoredRender[]>([]);
  const {
    control,
    handleSubmit,
    formState: { errors },
  } = useForm<RenderForm>({
    defaultValues: {
      name: name.replace(/[/\\:*?"<>|]/g, ' '),
      rate: rateKey(program.rate),
      size: sizesOf(width, height)[0]!.value,
      quality: 'high',
      sound: 'yes',
    },
  });

  const chosen = useWatch({ control });

  const refresh = useCallback(() => void listRenders().then(setRenders, () => setRenders([])), []);
  // Anew when a render has ended, too.
  useEffect(refresh, [refresh, outcome]);
  const choices = [program.rate, ...standardRates.filter((rate) => !sameRate(rate, program.rate))];
  const rateOf = (key: string): Rate => choices.find((rate) => rateKey(rate) === key) ?? program.rate;
  const plan = picturePlan(program, rateOf(chosen.rate ?? ''));
  const empty = program.length === 0;

  const start = handleSubmit((form) => {
    const [wide, high] = form.size.split('x').map(Number) as [number, number];
    const needed = Object.fromEntries(sourcesOf(program).map((id) => [id, locations[id]!]));
    const { quality, sound } = form;
    const order = {
      ...{ format, program, sources: needed, rate: rateOf(form.rate), width: wide, height: high },
      ...{ quality, sound: sound === 'yes' },
    };
    void dispatch(renderClip(`${form.name.trim()}.${format}`, order));
  });

  // The field says it too, but may be out of sight.
  const wrong = errors.name ? `File name ${errors.name.message}` : undefined;
  const what = empty
    ? 'Nothing lies on the timeline yet.'
    : format === 'wav'
      ? `WAV, 48 kHz, 24 bit, stereo: ${formatTime(program.length, program.rate, unit)}`
      : `MP4, H.264${audible && chosen.sound === 'yes' ? ' and AAC' : ''}: ${plan.count} frames, ${formatTime(plan.count, plan.rate, unit)}`;

  return (
    <View className="min-h-0 flex-1">
      <ScrollView className="min-h-0 flex-1" contentContainerClassName="items-center px-4 py-4">
        <View className="w-full max-w-[720px] gap-4">
          <Controller
            control={control}
            name="name"
            rules={{ validate: (name) => nameFault(name) ?? true }}
            render={({ field, fieldState }) => (
              <Field
                label="File name"
                words
                value={field.value}
                onChange={field.onChange}
                fault={fieldState.error?.message}
                hint={`${field.value.trim() || name}.${format}`}
              />
            )}
          />
          {format === 'mp4' ? <PictureFields {...{ control, choices, width, height, audible }} /> : null}
          <RenderList renders={renders} onChanged={refresh} />
          {clipId ? null : <Interchange />}
        </View>
      </ScrollView>
      <RenderFoot what={wrong ?? what} renders={renders} empty={empty} onRender={() => void start()} />
    </View>
  );
}

interface PictureFieldsProps {
  control: Control<RenderForm>;
  choices: readonly Rate[];
  width: number;
  height: number;
  audible: boolean;
}

/** What is asked of a file with a picture. */
function PictureFields({ control, choices, width, height, audible }: PictureFieldsProps) {
  return (
    <>
      <Controller
        control={control}
        name="rate"
        render={({ field }) => (
          <Choice
            label="Frames per second"
            value={field.value}
            onChange={field.onChange}
            options={choices.map((rate) => ({ value: rateKey(rate), label: formatRate(rate) }))}
          />
        )}
      />
      <Controller
        control={control}
        name="size"
        render={({ field }) => (
          <Choice label="Size" value={field.value} onChange={field.onChange} options={sizesOf(width, height)} />
        )}
      />
      <Controller
        control={control}
        name="quality"
        render={({ field }) => (
          <Choice
            label="Quality"
            value={field.value}
            onChange={field.onChange}
            options={renderQualities.map((value) => ({ value, label: value.replace('-', ' ') }))}
          />
        )}
      />
      {audible ? (
        <Controller
          control={control}
          name="sound"
          render={({ field }) => (
            <Choice
              label="Sound"
              value={field.value}
              onChange={field.onChange}
              options={[
                { value: 'yes', label: 'Follows the speed' },
                { value: 'no', label: 'None' },
              ]}
            />
          )}
        />
      ) : null}
    </>
  );
}
