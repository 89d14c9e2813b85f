import type { Clip } from '@hastig/contract';
import {
  fillGap,
  findClip,
  formatPercent,
  formatTime,
  gapsNear,
  joinAcross,
  mapOf,
  nextClip,
  replaceFootage,
  slipClip,
  speedInGap,
  type Gap,
  type Keeps,
  type SlipWay,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { choiceField, easeField, factorField, lengthField } from '../../../form/specs';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { gapChosen } from '../../../store/session-slice';
import { Choice } from '../../../ui/choice';
import { EmptySheet } from '../../../ui/empty-sheet';
import { ProjectForm, clipLengths } from '../../../form/project-form';
import { ProjectSheet } from '../../../form/project-sheet';

/** What every sheet about one clip is given. */
export interface OneClipProps {
  clip: Clip;
  onClose(): void;
}

export function SlipSheet({ clip, onClose }: OneClipProps) {
  return (
    <ProjectForm
      title={`Slip ${clip.name}`}
      label="slip a clip"
      clipId={clip.id}
      onClose={onClose}
      fields={() => ({
        by: {
          kind: 'number' as const,
          label: 'Slip by (frames)',
          initial: '0',
          hint: 'minus shows earlier frames',
          parse: (text: string) => {
            const value = Number(text.trim().replace(',', '.').replace('−', '-'));
            return text.trim() === '' || !Number.isFinite(value)
              ? { ok: false as const, reason: 'is not a number of frames' }
              : { ok: true as const, value };
          },
          step: (text: string, by: 1 | -1) => String((Number(text) || 0) + by),
        },
        way: choiceField<SlipWay>('Slip', 'content', [
          { value: 'content', label: 'Source only' },
          { value: 'timing', label: 'Source and curve' },
        ]),
      })}
      edit={({ by, way }) =>
        (project) =>
          slipClip(project, clip.id, by, way)
        }
      outcome={() => 'Position and duration stay the same'}
    />
  );
}

/** A short name for a gap. */
const gapName = (gap: Gap, rate: { num: number; den: number }, unit: Parameters<typeof formatTime>[2]): string =>
  `${formatTime(gap.from, rate, unit)}, ${gap.frames} frames`;

/** Fits a clip exactly into a gap; the speed it gets stands there before it is accepted. */
export function FillGapSheet({ clip, onClose }: OneClipProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { unit } = useSession('unit');
  const gaps = useMemo(() => gapsNear(project, clip.id), [project, clip.id]);
  const dispatch = useAppDispatch();
  const pointed = useAppSelector((state) => state.session.gap);
  // The one that was pointed at, also while this is open; else the nearest.
  const chosen = Math.max(
    0,
    gaps.findIndex(({ trackId, from }) => trackId === pointed?.trackId && from === pointed.from),
  );
  const gap = gaps[chosen];
  const edit = useMemo(() => (gap ? (now: typeof project) => fillGap(now, clip.id, gap) : undefined), [gap, clip.id]);
  if (!gap) {
    return (
      <EmptySheet
        title="Fit to gap"
        words="These tracks have no gaps. Lift a clip, or trim with Ripple off."
        onClose={onClose}
      />
    );
  }
  return (
    <ProjectSheet
      title={`Fit ${clip.name} to gap`}
      label="fit to a gap"
      edit={edit}
      onClose={onClose}
      outcome={() =>
        `${clip.shown.frames} frames into ${gap.frames}: ${formatPercent(Math.abs(speedInGap(project, clip.id, gap)))}`
      }
    >
      <Choice
        label="Gap"
        value={String(chosen)}
        onChange={(value) => dispatch(gapChosen(gaps[Number(value)]!))}
        options={gaps.slice(0, Math.max(12, chosen + 1)).map((one, index) => ({
          value: String(index),
          label: gapName(one, mapOf(project, clip).outputRate, unit),
        }))}
      />
    </ProjectSheet>
  );
}

export function ReplaceSheet({ clip, onClose }: OneClipProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const others = project.sources.filter(({ id }) => id !== clip.of.id);
  const [sourceId, setSource] = useState(others[0]?.id ?? '');
  const edit = useMemo(
    () => (sourceId ? (now: typeof project) => replaceFootage(now, clip.id, sourceId) : undefined),
    [sourceId, clip.id],
  );
  return (
    <ProjectSheet
      title={`Replace source of ${clip.name}`}
      label="replace a clip"
      edit={edit}
      onClose={onClose}
      outcome={() => 'The timing stays the same'}
    >
      <Choice
        label="Source"
        value={sourceId}
        onChange={setSource}
        options={others.map(({ id, name }) => ({ value: id, label: name }))}
      />
    </ProjectSheet>
  );
}

/** Speeds two neighbours meet in, one recipe for both. */
export function JoinSheet({ clip, onClose }: OneClipProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const next = nextClip(project, clip.id);
  const second = next ? findClip(project, next) : undefined;
  if (!second) {
    return (
      <EmptySheet
        title="Join across cut"
        words="No clip follows directly. Close the gap or select another clip."
        onClose={onClose}
      />
    );
  }
  const most = (frames: number): string => `${Math.min(24, Math.floor(frames / 2) || 1)}f`;
  return (
    <ProjectForm
      title={`Join ${clip.name} and ${second.name}`}
      label="join across a cut"
      clipId={clip.id}
      onClose={onClose}
      fields={({ map, unit }) => ({
        speed: factorField('Speed at cut', '400%', 'both clips reach it'),
        before: lengthField('Ramp before cut', most(clip.shown.frames), map.outputRate, unit),
        after: lengthField('Ramp after cut', most(second.shown.frames), map.outputRate, unit),
        keeps: choiceField<Keeps>('Preserve', 'content', [
          { value: 'content', label: 'Content' },
          { value: 'length', label: 'Duration' },
        ]),
        easeIn: { ...easeField('ease-in'), label: 'Ease before cut' },
        easeOut: { ...easeField('ease-out'), label: 'Ease after cut' },
      })}
      edit={({ before, after, ...join }) =>
        (now) =>
          joinAcross(now, clip.id, second.id, { ...join, before: Math.round(before), after: Math.round(after) })
        }
      outcome={(before, after) =>
        `${clip.name}: ${clipLengths(before, after, clip.id)}. ${second.name}: ${clipLengths(before, after, second.id)}`
      }
    />
  );
}
