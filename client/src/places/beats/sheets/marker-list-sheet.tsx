import type { Marker, ProjectDocument } from '@hastig/contract';
import {
  addSourceMarkers,
  findContainer,
  findSource,
  formatMoment,
  markersOver,
  parseMoment,
  removeSourceMarkers,
  SEQUENCE,
  setsOf,
  type SeenMarker,
} from '@hastig/core';
import { Text, View } from 'react-native';
import { setName } from '../../../beats/beat-words';
import { movedTo } from '../../../beats/music';
import { useStage } from '../../../stage/stage-context';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { markerSetChosen } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { MarkerRow } from '../../../ui/marker-row';
import { nextTone } from '../../../ui/marker-sign';
import { NameField } from '../../../ui/name-field';
import { SheetFrame } from '../../../ui/sheet-frame';
import { VirtualList } from '../../../ui/virtual-list';
import type { BeatsSheetProps } from '../commands/context';

/** What stands for all sets in a choice. */
const ALL = ':all';

/** The sets of markers, and the markers of the one that is chosen. */
export function MarkerListSheet({ containerId, music, markers, onClose }: BeatsSheetProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { markerSet } = useSession('markerSet');
  const sourceId = music.source.id;
  const sets = setsOf(markersOver(project, containerId).filter(({ clipId }) => clipId === music.clip.id));
  const own = markers.filter((seen) => seen.clipId === music.clip.id);
  const ids = own.map(({ marker }) => marker.id);

  const rename = (name: string): void => {
    const renamed = (now: ProjectDocument): ProjectDocument => {
      const all = findSource(now, sourceId)?.markers ?? [];
      const changed = all
        .filter(({ set = '' }) => set === markerSet)
        .map(({ set: _old, ...marker }): Marker => (name ? { ...marker, set: name } : marker));
      return addSourceMarkers(now, sourceId, changed);
    };
    if (dispatch(rearrange('rename a set', renamed))) dispatch(markerSetChosen(name));
  };
  const removeAll = (): void => {
    if (dispatch(rearrange('remove markers', (now) => removeSourceMarkers(now, sourceId, ids))))
      dispatch(markerSetChosen(null));
  };
  return (
    <SheetFrame title="Markers" onClose={onClose}>
      <Choice
        label="Set"
        value={markerSet ?? ALL}
        onChange={(value) => dispatch(markerSetChosen(value === ALL ? null : value))}
        options={[
          { value: ALL, label: setName(null) },
          ...sets.map((set) => ({ value: set, label: setName(set) })),
          ...(markerSet !== null && !sets.includes(markerSet) ? [{ value: markerSet, label: setName(markerSet) }] : []),
        ]}
      />
      {markerSet === null || own.length === 0 ? null : (
        <View className="flex-row items-end gap-2">
          <NameField label="Name of set" name={markerSet} onName={rename} />
          <Button label="Remove all" onPress={removeAll} />
        </View>
      )}
      {own.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">
          No markers here yet. Find beats or hits, tap along, or press M.
        </Text>
      ) : null}
      <VirtualList
        label="Markers"
        items={own}
        keyOf={({ marker, at }) => `${marker.id} ${at}`}
        height={46}
        gap={4}
        render={(seen) => <MusicMarker {...{ containerId, music, seen }} />}
      />
    </SheetFrame>
  );
}

function MusicMarker({
  containerId,
  music,
  seen,
}: Pick<BeatsSheetProps, 'containerId' | 'music'> & { seen: SeenMarker }) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit } = useSession('unit');
  const project = useAppSelector((state) => state.project.document)!;
  const { rate } = findContainer(project, containerId)!;
  const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;
  const { marker, at } = seen;
  const sourceId = music.source.id;
  const change = (label: string, next: Partial<Marker>): void =>
    void dispatch(rearrange(label, (now) => addSourceMarkers(now, sourceId, [{ ...marker, ...next }])));
  const moveTo = (frame: number): void =>
    void dispatch(rearrange('move a marker', (now) => movedTo(now, music, marker, frame)));
  return (
    <MarkerRow
      marker={marker}
      moment={formatMoment(Math.floor(at + start + 1e-6), rate, unit)}
      onTone={() => change('change a marker’s colour', { tone: nextTone(marker.tone) })}
      onEnter={(text) => {
        const parsed = parseMoment(text, rate, unit);
        if (!parsed.ok) return parsed.reason;
        const frame = parsed.value - start;
        if (frame < music.from || frame >= music.to) return 'is outside the music';
        moveTo(frame);
        return undefined;
      }}
      onStep={(by) => moveTo(at + by)}
      onName={(name) => change('name a marker', { name })}
      onGo={() => seek(Math.floor(at + 1e-6))}
      onRemove={() => dispatch(rearrange('remove a marker', (now) => removeSourceMarkers(now, sourceId, [marker.id])))}
    />
  );
}
