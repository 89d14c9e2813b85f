import {
  clipBetween,
  cutToMarks,
  findContainer,
  formatMoment,
  markersOver,
  placeOf,
  SEQUENCE,
  timesOfMarkers,
} from '@hastig/core';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { useStore } from 'react-redux';
import { setField } from '../../../beats/set-field';
import { FormFields } from '../../../form/form-fields';
import { ProjectSheet } from '../../../form/project-sheet';
import { choiceField, countField } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useAppSelector, useSession } from '../../../store/hooks';
import type { RootState } from '../../../store/store';
import { EmptySheet } from '../../../ui/empty-sheet';
import type { TimelineSheetProps } from '../commands/context';
import type { OneClipProps } from './edit-sheets';

const NO_MARKERS = 'There are no markers on this timeline. Set some in Beats first.';

function useMarkers(containerId: string) {
  const project = useAppSelector((state) => state.project.document)!;
  const { markerSet } = useSession('markerSet');
  const markers = markersOver(project, containerId);
  return { markers, field: () => setField(markers, markerSet) };
}

/** A rough cut: the chosen clips follow one another, each so many beats long. */
export function CutSheet({ containerId, clipIds, onClose }: TimelineSheetProps) {
  const { markers, field } = useMarkers(containerId);
  const { specs, texts, values, faults, set } = useEntries(() => ({
    marks: field(),
    every: countField('Beats per clip', '4', 1),
  }));
  const key = JSON.stringify([values, clipIds]);
  const edit = useMemo(() => {
    if (!values) return undefined;
    const marks = timesOfMarkers(markers, values.marks);
    return (project: Parameters<typeof cutToMarks>[0]) => cutToMarks(project, clipIds, { marks, every: values.every });
  }, [key, markers]);
  if (markers.length === 0) return <EmptySheet title="Cut to markers" words={NO_MARKERS} onClose={onClose} />;
  return (
    <ProjectSheet
      title="Cut to markers"
      label="cut to markers"
      edit={edit}
      onClose={onClose}
      outcome={() => `${clipIds.length} ${clipIds.length === 1 ? 'clip' : 'clips'}, cut on markers`}
    >
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
    </ProjectSheet>
  );
}

/** One clip from one marker to another: the frame at the playhead under the first, the rest after the second dropped. */
export function BetweenSheet({ clip, onClose }: OneClipProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { unit } = useSession('unit');
  const store = useStore<RootState>();
  const place = placeOf(project, clip.id);
  const containerId = place?.containerId ?? SEQUENCE;
  const { markers, field } = useMarkers(containerId);
  const { specs, texts, values, faults, set } = useEntries(() => {
    const marks = field();
    const times = timesOfMarkers(markers, marks.initial);
    const { playhead } = store.getState().session;
    const inside = place && playhead >= place.from && playhead < place.to;
    const first = Math.max(
      0,
      times.findIndex((at) => at >= (place?.from ?? 0) - 0.5),
    );
    return {
      marks,
      frame: choiceField<'start' | 'playhead'>('First frame', inside ? 'playhead' : 'start', [
        { value: 'start', label: 'Clip’s start' },
        ...(inside ? [{ value: 'playhead' as const, label: 'At playhead' }] : []),
      ]),
      from: countField('Starts at marker', String(first + 1), 1),
      to: countField('Ends at marker', String(Math.min(times.length, first + 5)), 2),
    };
  });
  const times = useMemo(() => timesOfMarkers(markers, values?.marks), [markers, values?.marks]);
  const key = JSON.stringify(values);
  const edit = useMemo(() => {
    const [from, to] = values ? [times[values.from - 1], times[values.to - 1]] : [];
    if (!values || !place || from === undefined || to === undefined) return undefined;
    const { playhead } = store.getState().session;
    const first = clip.shown.from + (values.frame === 'playhead' ? playhead - place.from : 0);
    return (now: typeof project) => clipBetween(now, clip.id, first, { from, to });
  }, [key, times, clip]);
  if (markers.length === 0) return <EmptySheet title="Between markers" words={NO_MARKERS} onClose={onClose} />;
  const { rate } = findContainer(project, containerId)!;
  const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;
  const moment = (index: number): string => {
    const at = times[index];
    return at === undefined ? '' : formatMoment(Math.round(at) + start, rate, unit);
  };
  return (
    <ProjectSheet
      title={`${clip.name} between markers`}
      label="fit between markers"
      edit={edit}
      onClose={onClose}
      outcome={() => (values ? `${moment(values.from - 1)} to ${moment(values.to - 1)}` : '')}
    >
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      <Text className="font-sans text-[12px] text-quiet">{`${times.length} markers. What is outside is hidden.`}</Text>
    </ProjectSheet>
  );
}
