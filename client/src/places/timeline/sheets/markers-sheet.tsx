import { markerTones, type Marker, type MarkerTone } from '@hastig/contract';
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
import { nanoid } from '@reduxjs/toolkit';
import ArrowRight from 'lucide-react-native/icons/arrow-right';
import Download from 'lucide-react-native/icons/download';
import Trash from 'lucide-react-native/icons/trash';
import Upload from 'lucide-react-native/icons/upload';
import { Pressable, Text, View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { noticeSet, messageSet } from '../../../store/session-slice';
import { saveText } from '../../../ui/save-file';
import { Button, IconButton } from '../../../ui/button';
import { NameField } from '../../../ui/name-field';
import { useFilePicker } from '../../../ui/use-file-picker';
import { SheetFrame } from '../../../ui/sheet-frame';
import { TapNumber } from '../../../ui/tap-number';
import { MarkerSign } from '../../../ui/marker-sign';
import { VirtualList } from '../../../ui/virtual-list';

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
      const added = found.map((one): Marker => ({ ...one, id: `id-${nanoid(12)}` }));
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
        render={(marker) => <MarkerRow {...{ containerId, marker, rate, start }} />}
      />
    </SheetFrame>
  );
}

interface MarkerRowProps {
  containerId: string;
  marker: Marker;
  rate: { num: number; den: number };
  start: number;
}

function MarkerRow({ containerId, marker, rate, start }: MarkerRowProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit } = useSession('unit');
  const change = (label: string, next: Partial<Marker>): void =>
    void dispatch(rearrange(label, (now) => setMarkers(now, containerId, [{ ...marker, ...next }])));
  const moment = formatMoment(marker.at + start, rate, unit);
  const enter = (text: string): string | undefined => {
    const parsed = parseMoment(text, rate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < start) return 'is before the start';
    change('move a marker', { at: Math.floor(parsed.value) - start });
    return undefined;
  };
  const nextTone = (): MarkerTone => markerTones[(markerTones.indexOf(marker.tone) + 1) % markerTones.length]!;
  return (
    <View className="flex-row items-center gap-1 rounded-lg border border-line bg-ink px-1">
      <Pressable
        role="button"
        accessibilityLabel={`Colour: ${marker.tone}. Change colour`}
        onPress={() => change('change a marker’s colour', { tone: nextTone() })}
        className="h-11 w-9 items-center justify-center rounded-lg hover:bg-line"
      >
        <MarkerSign tone={marker.tone} />
      </Pressable>
      <View className="w-[98px] flex-none">
        <TapNumber
          compact
          label="At"
          text={moment}
          onEnter={enter}
          onStep={(by) => change('move a marker', { at: Math.max(0, marker.at + by) })}
        />
      </View>
      <NameField
        label={`Name of marker at ${moment}`}
        bare="name"
        name={marker.name}
        onName={(name) => change('name a marker', { name })}
      />
      <IconButton narrow label={`Go to marker at ${moment}`} icon={ArrowRight} onPress={() => seek(marker.at)} />
      <IconButton
        narrow
        label={`Remove marker at ${moment}`}
        icon={Trash}
        onPress={() => dispatch(rearrange('remove a marker', (now) => removeMarkers(now, containerId, [marker.id])))}
      />
    </View>
  );
}
