import type { ExposureStep, SlowWay } from '@hastig/contract';
import { AUTO_SAMPLES, MOST_LEFT_OUT, MOST_SAMPLES, MOST_SHUTTER, MOST_TAKEN } from '@hastig/contract';
import { exposureList, formatPercent, instant } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { conditionWords, slowOptions, stepWords } from '../../../exposure/exposure-words';
import { ProjectForm } from '../../../form/project-form';
import { choiceField, factorField, numberField, onlyWhen } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import type { PictureSheetProps } from '../commands/context';
import { useExtent } from '../../../effects/use-extent';

type Slow = SlowWay | 'open';
type Shutter = 'open' | '0' | '180' | '360' | 'other';

const shutters: readonly { value: Shutter; label: string }[] = [
  { value: 'open', label: 'As before' },
  { value: '0', label: 'Closed' },
  { value: '180', label: '180°' },
  { value: '360', label: '360°' },
  { value: 'other', label: 'Other' },
];

/** How a shutter is chosen: by its angle where that is a usual one. */
const chosenShutter = (shutter: number | undefined): Shutter => {
  if (shutter === undefined) return 'open';
  const text = String(shutter);
  return shutters.some(({ value }) => value === text) ? (text as Shutter) : 'other';
};

/** Samples that a step tells, or those it would have. */
const toldSamples = (step: ExposureStep | undefined): number =>
  typeof step?.samples === 'number' ? step.samples : Number(instant.samples);

/** What becomes of light that flickers. */
type Light = 'open' | 'even' | 'filmed';

const lightOf = ({ evenLight }: Partial<ExposureStep> = {}): Light =>
  evenLight === undefined ? 'open' : evenLight ? 'even' : 'filmed';

/** Which of the frames that pass are looked at. */
type Take = 'open' | 'all' | 'every' | 'keys';

const takeOf = (step: ExposureStep | undefined): Take => {
  if (step?.keys) return 'keys';
  if (step?.every) return step.every.frames > 1 ? 'every' : 'all';
  return 'open';
};

function takenOf({ take, every, first }: { take: Take; every: number; first: number }): Partial<ExposureStep> {
  if (take === 'open') return {};
  if (take === 'all') return { every: { frames: 1 }, keys: false };
  if (take === 'keys') return { keys: true };
  const from = Math.round(first);
  return { every: { frames: Math.round(every), ...(from > 0 && { from }) }, keys: false };
}

/** How pictures are made: of a clip, of several, or of the film; everywhere, or between in and out. */
export function ExposureSheet({ clipId, map, step, film = false, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const before =
    step === undefined ? undefined : exposureList.of(project, film ? 'film' : clipId).find(({ id }) => id === step);
  const id = useMemo(() => step ?? nanoid(12), [step]);
  const extent = useExtent({ clipId, map, film, before });
  return (
    <ProjectForm
      title={before ? 'Exposure' : 'Add exposure'}
      label={before ? 'change an exposure' : 'add an exposure'}
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        ...extent.fields,
        slow: choiceField<Slow>('Slow parts', before ? (before.slow ?? 'open') : 'compensated', [
          { value: 'open', label: 'As before' },
          ...slowOptions,
        ]),
        shutter: choiceField<Shutter>('Shutter', before ? chosenShutter(before.shutter) : '180', shutters),
        angle: onlyWhen(
          numberField('Shutter angle (°)', String(before?.shutter ?? 270), 0, MOST_SHUTTER),
          'shutter',
          'other',
        ),
        follow: onlyWhen(
          choiceField<'told' | 'auto'>('Samples', before?.samples === AUTO_SAMPLES ? 'auto' : 'told', [
            { value: 'told', label: 'Number' },
            { value: 'auto', label: 'By movement' },
          ]),
          'shutter',
          '180',
          '360',
          'other',
        ),
        samples: {
          ...numberField('Number of samples', String(toldSamples(before)), 1, MOST_SAMPLES),
          when: ({ shutter, follow }) => shutter !== 'open' && shutter !== '0' && follow === 'told',
        },
        take: choiceField<Take>('Frames', takeOf(before), [
          { value: 'open', label: 'As before' },
          { value: 'all', label: 'All' },
          { value: 'every', label: 'Every n-th' },
          { value: 'keys', label: 'Key frames' },
        ]),
        every: onlyWhen(
          numberField('Every so many frames', String(before?.every?.frames ?? 10), 2, MOST_LEFT_OUT),
          'take',
          'every',
        ),
        first: onlyWhen(numberField('From frame', String(before?.every?.from ?? 0), 0, MOST_LEFT_OUT), 'take', 'every'),
        mean: onlyWhen(
          choiceField<'all' | 'most'>('Average of', before?.most === undefined ? 'all' : 'most', [
            { value: 'all', label: 'All that pass' },
            { value: 'most', label: 'At most' },
          ]),
          'shutter',
          '180',
          '360',
          'other',
        ),
        most: onlyWhen(numberField('Frames at most', String(before?.most ?? 32), 1, MOST_TAKEN), 'mean', 'most'),
        light: choiceField<Light>('Flicker', lightOf(before), [
          { value: 'open', label: 'As before' },
          { value: 'even', label: 'Evened out' },
          { value: 'filmed', label: 'As filmed' },
        ]),
        only: choiceField<'all' | 'faster' | 'slower'>('At speeds', before?.only?.than ?? 'all', [
          { value: 'all', label: 'All' },
          { value: 'faster', label: 'Above' },
          { value: 'slower', label: 'Below' },
        ]),
        speed: onlyWhen(factorField('Speed', formatPercent(before?.only?.speed ?? 1)), 'only', 'faster', 'slower'),
        grows: onlyWhen(
          choiceField<'even' | 'grows'>('Shutter opens', before?.grows ? 'grows' : 'even', [
            { value: 'even', label: 'The same at any speed' },
            { value: 'grows', label: 'With speed' },
          ]),
          'shutter',
          '180',
          '360',
          'other',
        ),
        nothing: onlyWhen(factorField('Closed at', formatPercent(before?.grows?.from ?? 1)), 'grows', 'grows'),
        full: onlyWhen(factorField('Fully open at', formatPercent(before?.grows?.to ?? 4)), 'grows', 'grows'),
      })}
      edit={({ slow, shutter, angle, follow, samples, light, only, speed, grows, nothing, full, ...taken }) =>
        (state) => {
          const { owner, over } = extent.chosen(taken);
          const opens = shutter !== 'open' && shutter !== '0';
          const next: ExposureStep = {
            id,
            ...(before?.off && { off: true }),
            ...(slow !== 'open' && { slow }),
            ...(shutter !== 'open' && { shutter: shutter === 'other' ? angle : Number(shutter) }),
            ...(opens && { samples: follow === 'auto' ? AUTO_SAMPLES : Math.round(samples) }),
            ...takenOf(taken),
            ...(light !== 'open' && { evenLight: light === 'even' }),
            ...(opens && taken.mean === 'most' && { most: Math.round(taken.most) }),
            ...(over && { over }),
            ...(only !== 'all' && { only: { than: only, speed } }),
            ...(opens && grows === 'grows' && { grows: { from: nothing, to: full } }),
          };
          return exposureList.put(state, owner, next);
        }}
      outcome={(_, after) => {
        const now = [...exposureList.of(after, 'film'), ...exposureList.of(after, clipId)].find((one) => one.id === id);
        return now ? [stepWords(now), conditionWords(now)].filter(Boolean).join(', ') : 'Nothing changes here';
      }}
    >
      {extent.needsMarks ? (
        <Text className="font-sans text-[13px] text-quiet">For a part only, mark in and out first.</Text>
      ) : null}
    </ProjectForm>
  );
}
