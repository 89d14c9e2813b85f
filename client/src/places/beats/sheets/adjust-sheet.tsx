import type { Marker, MarkerKind, ProjectDocument } from '@hastig/contract';
import { addSourceMarkers, findSource, positionSeconds, removeSourceMarkers, secondsPosition } from '@hastig/core';
import { useMemo } from 'react';
import { Text } from 'react-native';
import { adjusted, type Adjustment } from '../../../beats/adjust';
import { kindWords, setName, spacingWords } from '../../../beats/beat-words';
import { kindTones } from '../../../beats/made-markers';
import { contentSeconds } from '../../../beats/music';
import { FormFields } from '../../../form/form-fields';
import { ProjectSheet } from '../../../form/project-sheet';
import { choiceField, countField, numberField, onlyWhen } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { pinsFollowSet } from '../../../store/session-slice';
import { Choice } from '../../../ui/choice';
import type { BeatsSheetProps } from '../commands/context';
import { newId } from '../../../store/new-id';

/** Markers of the set that is worked with made fewer, more, or moved together. */
export function AdjustSheet({ music, onClose }: BeatsSheetProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { markerSet, selectedMarkers, marks, pinsFollow } = useSession(
    'markerSet',
    'selectedMarkers',
    'marks',
    'pinsFollow',
  );
  const marked = marks.from !== null || marks.to !== null;
  const { specs, texts, values, faults, set } = useEntries(() => ({
    what: choiceField<Adjustment['what']>('Change', 'nth', [
      { value: 'nth', label: 'Every nth' },
      { value: 'double', label: 'Double' },
      { value: 'gap', label: 'Least gap' },
      { value: 'half', label: 'Half a beat later' },
      { value: 'nudge', label: 'Nudge' },
      { value: 'bars', label: 'Count bars' },
      { value: 'kind', label: 'Kind' },
    ]),
    n: onlyWhen(countField('Keep one of', '2', 2), 'what', 'nth'),
    first: onlyWhen(countField('Starting with', '1', 1), 'what', 'nth'),
    gap: onlyWhen(numberField('Least gap (ms)', '250', 0, 60_000), 'what', 'gap'),
    by: onlyWhen(numberField('Nudge by (ms)', '0', -60_000, 60_000, 'minus is earlier'), 'what', 'nudge'),
    bar: onlyWhen(countField('Beats per bar', '4', 1), 'what', 'bars'),
    downbeat: onlyWhen(countField('First downbeat', '1', 1, 'number of the marker'), 'what', 'bars'),
    kind: onlyWhen(
      choiceField<MarkerKind>(
        'Make them',
        'downbeat',
        (['downbeat', 'beat', 'hit', 'moment', 'hand'] as const).map((value) => ({ value, label: kindWords[value] })),
      ),
      'what',
      'kind',
    ),
    extent: choiceField<'all' | 'selected' | 'marked'>('Apply to', selectedMarkers.length > 1 ? 'selected' : 'all', [
      { value: 'all', label: setName(markerSet) },
      ...(selectedMarkers.length > 0 ? [{ value: 'selected' as const, label: 'Selected' }] : []),
      ...(marked ? [{ value: 'marked' as const, label: 'In to out' }] : []),
    ]),
  }));
  const key = values && JSON.stringify([values, marks, selectedMarkers, markerSet]);
  const edit = useMemo(() => {
    if (!values) return undefined;
    const { extent, ...change } = values;
    return (now: ProjectDocument): ProjectDocument => {
      const source = findSource(now, music.source.id);
      if (!source) return now;
      const [from, to] = [marks.from ?? music.from, marks.to ?? music.to].map((at) => contentSeconds(now, music, at));
      const chosen = (source.markers ?? []).filter((marker) => {
        if (markerSet !== null && (marker.set ?? '') !== markerSet) return false;
        if (extent === 'selected') return selectedMarkers.includes(marker.id);
        const seconds = positionSeconds(source, marker.at);
        return extent === 'all' || (seconds >= from! && seconds < to!);
      });
      const made = adjusted(
        chosen.map((marker) => ({ marker, seconds: positionSeconds(source, marker.at) })),
        change,
      );
      const next = made.map(({ marker, seconds, isNew, kind }): Marker => {
        const at = secondsPosition(source, seconds);
        const become = kind ?? (isNew && marker.kind === 'downbeat' ? 'beat' : undefined);
        return {
          ...marker,
          at,
          ...(isNew && { id: newId(), name: '' }),
          ...(become && become !== marker.kind && { kind: become, tone: kindTones[become] }),
        };
      });
      const kept = new Set(next.map(({ id }) => id));
      const gone = chosen.filter(({ id }) => !kept.has(id)).map(({ id }) => id);
      return addSourceMarkers(removeSourceMarkers(now, source.id, gone), source.id, next);
    };
  }, [key, music]);
  return (
    <ProjectSheet
      title="Adjust markers"
      label="adjust markers"
      edit={edit}
      onClose={onClose}
      outcome={(_, after) => {
        const source = findSource(after, music.source.id);
        const shown = (source?.markers ?? []).filter(({ set: of = '' }) => markerSet === null || of === markerSet);
        return source ? spacingWords(shown.map(({ at }) => positionSeconds(source, at))) : '';
      }}
    >
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      <Choice
        label="Pins on moved markers"
        value={pinsFollow ? 'follow' : 'stay'}
        onChange={(value) => dispatch(pinsFollowSet(value === 'follow'))}
        options={[
          { value: 'follow', label: 'Move along' },
          { value: 'stay', label: 'Stay' },
        ]}
      />
      {project.clips.every(({ timing }) => !timing.pins) ? (
        <Text className="font-sans text-[12px] text-quiet">No clip has pins yet.</Text>
      ) : null}
    </ProjectSheet>
  );
}
