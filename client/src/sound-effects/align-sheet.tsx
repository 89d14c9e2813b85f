import {
  EditRefused,
  effectMoments,
  findClip,
  findSource,
  formatMoment,
  mapOf,
  placeOf,
  alignWithTargets,
  secondsPosition,
  timesAt,
} from '@hastig/core';
import { useMemo } from 'react';
import { ProjectForm } from '../form/project-form';
import { choiceField, onlyWhen } from '../form/specs';
import { useAppSelector, useSession } from '../store/hooks';
import { EmptySheet } from '../ui/empty-sheet';
import { mayFollow, placingOptions, placings, riseOptions, targetsFor, type Placing, type Rise } from './targets';
import { newId } from '../store/new-id';

interface AlignSheetProps {
  clipId: string;
  /** Frame of what the clip lies in at which the playhead stands. */
  near(): number;
  onClose(): void;
}

/** A sound moved so that its loudest moment is exactly on a frame; copies of it where there are several. */
export function AlignSheet({ clipId, near, onClose }: AlignSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { unit } = useSession('unit');
  const ids = useMemo(() => new Map<number, string>(), []);
  const clip = findClip(project, clipId);
  const place = clip && placeOf(project, clipId);
  const source = clip?.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const moments = source && effectMoments(source);
  if (!place || place.track.kind !== 'sound' || !source || !moments) {
    const words =
      place?.track.kind === 'sound'
        ? 'Add a marker named Loudest at this sound’s loudest moment first, in Beats.'
        : 'Only a clip on a sound track can be aligned. Add an effect, or detach the sound.';
    return <EmptySheet title="Align sound" words={words} onClose={onClose} />;
  }
  // The same ones for as long as the sheet is open: what is tried out is what is kept.
  const namer = (): (() => string) => {
    let made = 0;
    return () => {
      const known = ids.get(made) ?? newId();
      ids.set(made++, known);
      return known;
    };
  };
  // Near where it is loud now, not near where it begins.
  const loudest = timesAt(mapOf(project, clip), secondsPosition(source, moments.loudest))[0]?.from ?? clip.shown.from;
  const here = place.from + Math.round(loudest) - clip.shown.from;
  return (
    <ProjectForm
      title="Align sound"
      label="align a sound"
      clipId={clipId}
      onClose={onClose}
      fields={() => ({
        placing: choiceField<Placing>('Align loudest moment with', 'peak', placingOptions),
        rise: onlyWhen(choiceField<Rise>('Rise', 'own', riseOptions), 'placing', ...placings.filter(mayFollow)),
      })}
      edit={({ placing, rise }) => {
        const frame = placing === 'playhead' ? near() : here;
        return (now) => {
          const { targets, missing } = targetsFor(now, place.containerId, placing, frame);
          if (missing) throw new EditRefused('placing', missing);
          return alignWithTargets(now, clipId, targets, {
            follow: mayFollow(placing) && rise === 'ramp',
            newId: namer(),
          });
        };
      }}
      outcome={(before, after) => {
        const more = after.clips.length - before.clips.length;
        const at = placeOf(after, clipId);
        const told = at ? formatMoment(loudestFrame(after, clipId), at.container.rate, unit) : '–';
        return `Loudest at ${told}${more > 0 ? `, and ${more} more` : ''}`;
      }}
    />
  );
}

/** The frame of what a clip lies in at which it is loudest. */
function loudestFrame(project: Parameters<typeof findClip>[0], clipId: string): number {
  const clip = findClip(project, clipId)!;
  const source = findSource(project, clip.of.id)!;
  const at = timesAt(mapOf(project, clip), secondsPosition(source, effectMoments(source)!.loudest))[0]!.from;
  return Math.round(placeOf(project, clipId)!.from + at - clip.shown.from);
}
