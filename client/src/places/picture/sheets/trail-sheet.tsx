import { MOST_APART, MOST_COPIES, type Combine, type Trail } from '@hastig/contract';
import { effectList, formatPercent, trimDecimals } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { combineOptions, effectCondition, effectWords } from '../../../effects/effect-words';
import { ProjectForm } from '../../../form/project-form';
import { choiceField, factorField, numberField, onlyWhen, percentField } from '../../../form/specs';
import { useAppSelector } from '../../../store/hooks';
import type { PictureSheetProps } from '../commands/context';
import { useExtent } from '../../../effects/use-extent';

/** Copies of earlier or later pictures (common practice: about a frame of 24 apart, five, each 80% of the one before, lightest). */
export function TrailSheet({ clipId, map, effect, film = false, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const all = effectList.of(project, film ? 'film' : clipId);
  const before = all.find((one): one is Trail => one.kind === 'trail' && one.id === effect);
  const id = useMemo(() => effect ?? nanoid(12), [effect]);
  const extent = useExtent({ clipId, map, film, before });
  return (
    <ProjectForm
      title={before ? 'Trail' : 'Add trail'}
      label={before ? 'change a trail' : 'add a trail'}
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        ...extent.fields,
        copies: numberField('Copies', String(before?.copies ?? 5), 1, MOST_COPIES),
        way: choiceField<'earlier' | 'later'>('Of', (before?.apart ?? 1) < 0 ? 'later' : 'earlier', [
          { value: 'earlier', label: 'Earlier' },
          { value: 'later', label: 'Later' },
        ]),
        unit: choiceField<Trail['by']>('Apart in', before?.by ?? 'frames', [
          { value: 'frames', label: 'Frames' },
          { value: 'seconds', label: 'Seconds' },
        ]),
        frames: onlyWhen(
          numberField('Frames apart', textOf(before, 'frames', 1), 0.01, MOST_APART.frames),
          'unit',
          'frames',
        ),
        seconds: onlyWhen(
          numberField('Seconds apart', textOf(before, 'seconds', 0.04), 0.001, MOST_APART.seconds),
          'unit',
          'seconds',
        ),
        decay: percentField('Decay', formatPercent(before?.decay ?? 0.8), 0, 1),
        combine: choiceField<Combine>('Combine', before?.combine ?? 'lightest', combineOptions),
        only: choiceField<'all' | 'faster' | 'slower'>('At speeds', before ? (before.only?.than ?? 'all') : 'faster', [
          { value: 'all', label: 'All' },
          { value: 'faster', label: 'Above' },
          { value: 'slower', label: 'Below' },
        ]),
        speed: onlyWhen(factorField('Speed', formatPercent(before?.only?.speed ?? 2)), 'only', 'faster', 'slower'),
      })}
      edit={({ copies, way, unit, frames, seconds, decay, combine, only, speed, ...taken }) =>
        (state) => {
          const { owner, over } = extent.chosen(taken);
          const apart = unit === 'frames' ? frames : seconds;
          return effectList.put(state, owner, {
            ...{ id, kind: 'trail', by: unit, decay, combine },
            ...{ copies: Math.round(copies), apart: way === 'later' ? -apart : apart },
            ...(before?.off && { off: true }),
            ...(over && { over }),
            ...(only !== 'all' && { only: { than: only, speed } }),
          });
        }}
      outcome={(_, after) => {
        const now = [...effectList.of(after, 'film'), ...effectList.of(after, clipId)].find((one) => one.id === id);
        return now ? [effectWords(now), effectCondition(now)].filter(Boolean).join(', ') : 'Nothing changes here';
      }}
    >
      {extent.needsMarks ? (
        <Text className="font-sans text-[13px] text-quiet">For a part only, mark in and out first.</Text>
      ) : null}
    </ProjectForm>
  );
}

const textOf = (trail: Trail | undefined, by: Trail['by'], usual: number): string =>
  trimDecimals(trail?.by === by ? Math.abs(trail.apart) : usual, 3);
