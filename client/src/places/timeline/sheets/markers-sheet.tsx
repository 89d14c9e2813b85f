import type { Marker } from '@hastig/contract';
import {
  findContainer,
  formatMoment,
  markersFromCsv,
  markersFromVtt,
  markersToCsv,
  markersToVtt,
  MarkersUnreadable,
  parseMoment,
  removeMarkers,
  SEQUENCE,
  setMarkers,
  type MarkerTable,
} from '@hastig/core';
import Download from 'lucide-react-native/icons/download';
import Upload from 'lucide-react-native/icons/upload';
import { Text, View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { noticeSet, messageSet } from '../../../store/session-slice';
import { saveText } from '../../../ui/save-file';
import { Button } from '../../../ui/button';
import { MarkerRow } from '../../../ui/marker-row';
import { nextTone } from '../../../ui/marker-sign';
import { useFilePicker } from '../../../ui/use-file-picker';
import { SheetFrame } from '../../../ui/sheet-frame';
import { VirtualList } from '../../../ui/virtual-list';
import { newId } from '../../../store/new-id';

/** All markers: gone to, named, toned, moved, taken away; out and in as WebVTT or CSV. */
export function MarkersSheet({ containerId, onClose }: { containerId: string; onClose(): void }) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { markers, rate } = findContainer(project, containerId)!;
  const table: MarkerTable = { rate, markers };
  const start = containerId === SEQUENCE ? project.sequence.startFrame : 0;

  const take = async (file: File): Promise<void> => {
    try {
      const read = file.name.toLowerCase().endsWith('.vtt') ? markersFromVtt : markersFromCsv;
      const found = read(await file.text(), rate);
      const added = found.map((one): Marker => ({ ...one, id: newId() }));
      if (dispatch(rearrange(`import ${found.length} markers`, (now) => setMarkers(now, containerId, added)))) {
        dispatch(messageSet(`Imported ${found.length} markers from ${file.name}.`));
      }
    } catch (error) {
      if (!(error instanceof MarkersUnreadable)) throw error;
      dispatch(noticeSet(`${file.name}: ${error.message}`));
    }
  };

  const picker = useFilePicker('Marker file', '.vtt,.csv,text/vtt,text/csv', (file) => void take(file));
  const foot = (
    <View className="flex-row flex-wrap gap-1 border-t border-line px-3 py-2">
      <Button
        label="WebVTT"
        icon={Download}
        disabled={markers.length === 0}
        onPress={() => saveText(`${project.name}.vtt`, 'text/vtt', markersToVtt(table))}
      />
      <Button
        label="CSV"
        icon={Download}
        disabled={markers.length === 0}
        onPress={() => saveText(`${project.name}.csv`, 'text/csv', markersToCsv(table))}
      />
      <Button label="Import" icon={Upload} onPress={() => picker.open()} />
      {picker.picker}
    </View>
  );
  return (
    <SheetFrame title="Markers" onClose={onClose} foot={foot}>
      {markers.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">
          No markers yet. Add one at the playhead with Add marker or M, even during playback.
        </Text>
      ) : null}
      <VirtualList
        label="Markers"
        items={markers}
        keyOf={({ id }) => id}
        height={46}
        gap={4}
        render={(marker) => <TimelineMarker {...{ containerId, marker, rate, start }} />}
      />
    </SheetFrame>
  );
}

interface TimelineMarkerProps {
  containerId: string;
  marker: Marker;
  rate: { num: number; den: number };
  start: number;
}

function TimelineMarker({ containerId, marker, rate, start }: TimelineMarkerProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit } = useSession('unit');
  const change = (label: string, next: Partial<Marker>): void =>
    void dispatch(rearrange(label, (now) => setMarkers(now, containerId, [{ ...marker, ...next }])));
  const enter = (text: string): string | undefined => {
    const parsed = parseMoment(text, rate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < start) return 'is before the start';
    change('move a marker', { at: Math.floor(parsed.value) - start });
    return undefined;
  };
  return (
    <MarkerRow
      marker={marker}
      moment={formatMoment(marker.at + start, rate, unit)}
      onTone={() => change('change a marker’s colour', { tone: nextTone(marker.tone) })}
      onEnter={enter}
      onStep={(by) => change('move a marker', { at: Math.max(0, marker.at + by) })}
      onName={(name) => change('name a marker', { name })}
      onGo={() => seek(marker.at)}
      onRemove={() => dispatch(rearrange('remove a marker', (now) => removeMarkers(now, containerId, [marker.id])))}
    />
  );
}
