import type { Marker, Source } from '@hastig/contract';
import {
  appendClip,
  clipsOfSource,
  findSource,
  fileRate,
  formatFactor,
  formatTime,
  kindOf,
  lookAt,
  realFrameFloor,
  soundOf,
  formatPercent,
  formatRate,
  rateRatio,
  renameSource,
  SEQUENCE,
  sourceFrames,
  wholeClip,
  withSourceMarkers,
  withSourcePart,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { silentWords } from '@hastig/engine';
import { useRouter } from 'expo-router';
import Trash from 'lucide-react-native/icons/trash';
import { ScrollView, Text, View } from 'react-native';
import { CommandButton } from '../../commands/command-button';
import { useCommandKeys } from '../../commands/use-commands';
import { ChooseSound } from '../../project/choose-sound';
import { VariableRate } from '../../project/variable-rate';
import { ColourOptions } from '../../project/colour-options';
import { PlayAt } from '../../project/play-at';
import { ProxyPanel } from '../../project/proxy';
import { FieldOptions } from '../../project/field-options';
import { sourceCommands } from './source-commands';
import { WaveSheet } from '../../sound/wave-sheet';
import { useStage } from '../../stage/stage-context';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { replaceSourceFile } from '../../store/replace-file';
import type { RootState } from '../../store/store';
import { useStore } from 'react-redux';
import { useFilePicker } from '../../ui/use-file-picker';
import { Button, IconButton } from '../../ui/button';
import { NameField } from '../../ui/name-field';
import { MarkerSign } from '../../ui/marker-sign';
import { ContactSheet } from './contact-sheet';
import { FactRows } from './fact-rows';
import { sourceMeaning } from './facts';
import { UploadRow } from './upload-row';
import { newId } from '../../store/new-id';

/** One source, seen large: frame by frame, its part chosen, its moments marked. */
export function SourcePlace({ projectId, sourceId }: { projectId: string; sourceId: string }) {
  const source = useAppSelector((state) =>
    state.project.document ? findSource(state.project.document, sourceId) : undefined,
  );
  return source ? <OpenSourcePlace projectId={projectId} source={source} /> : null;
}

function OpenSourcePlace({ projectId, source }: { projectId: string; source: Source }) {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const store = useStore<RootState>();
  const { seek } = useStage();
  const project = useAppSelector((state) => state.project.document)!;
  const unit = useAppSelector((state) => state.session.unit);
  const kind = kindOf(source.facts);
  const { rate, positions } = lookAt(project, source);
  const all = sourceFrames(source);
  const frames = Math.ceil(all / positions - 1e-6);
  const part = source.part
    ? { from: source.part.from / positions, to: (source.part.from + source.part.frames) / positions }
    : { from: 0, to: frames };
  const markers = source.markers ?? [];
  const floor = realFrameFloor(rate, project.sequence.rate);
  const here = (): number => Math.min(store.getState().session.playhead, frames - 1);

  const choosePart = (from: number, to: number): void => {
    // A mark on the wrong side of the other takes its place.
    const [start, end] = from < to ? [from, to] : from === part.from ? [0, to] : [from, frames];
    const first = Math.round(start * positions);
    const chosen = { from: first, frames: Math.min(all, Math.round(end * positions)) - first };
    dispatch(rearrange('set in or out', (now) => withSourcePart(now, source.id, chosen)));
  };
  const markIn = (): void => choosePart(here(), part.to);
  const markOut = (): void => choosePart(part.from, here() + 1);
  const clearPart = (): void =>
    void dispatch(rearrange('clear in and out', (now) => withSourcePart(now, source.id, undefined)));
  const setMarkers = (label: string, next: readonly Marker[]): void =>
    void dispatch(rearrange(label, (now) => withSourceMarkers(now, source.id, next)));
  const marker = (): void => {
    const at = Math.floor(here() * positions);
    if (markers.some((one) => one.at === at)) return;
    setMarkers('add a marker', [...markers, { id: newId(), at, name: '', tone: 'oak' }]);
  };
  const add = (): void => {
    const clip = wholeClip(project, `clip-${nanoid(10)}`, source);
    dispatch(rearrange(`add ${source.name}`, (now) => appendClip(now, SEQUENCE, clip)));
    router.push(`/project/${projectId}/timeline`);
  };
  const rename = (name: string): void =>
    void dispatch(rearrange('rename a source', (now) => renameSource(now, source.id, name)));
  const picker = useFilePicker('Replacement file', '', (file) => void dispatch(replaceSourceFile(source.id, file)));
  const still = kind === 'still';
  const context = { still, marked: source.part !== undefined, markIn, markOut, clearPart, marker, add };
  useCommandKeys(sourceCommands, context);
  const [inCommand, outCommand, clearCommand, markerCommand, addCommand] = sourceCommands;

  return (
    <ScrollView className="flex-1" contentContainerClassName="gap-4 p-3">
      <View role="toolbar" aria-label="In, out and markers" className="flex-row flex-wrap items-center gap-1">
        {kind === 'still' ? null : (
          <>
            <CommandButton command={inCommand} context={context} pressed={part.from > 0} />
            <CommandButton command={outCommand} context={context} pressed={part.to < frames} />
            <CommandButton command={clearCommand} context={context} />
            <CommandButton command={markerCommand} context={context} />
          </>
        )}
        <Text role="status" className="min-w-[190px] flex-1 px-1 font-mono text-[13px] text-quiet">
          {kind === 'still'
            ? ''
            : `${formatTime(part.to - part.from, rate, unit)} of ${formatTime(frames, rate, unit)}`}
        </Text>
        <CommandButton command={addCommand} context={context} words="primary" />
      </View>
      {kind === 'sound' ? (
        <WaveSheet {...{ source, rate, positions, part, markers }} />
      ) : kind === 'still' ? null : (
        <ContactSheet source={source} part={part} markers={markers} />
      )}
      {markers.length > 0 ? (
        <View role="list" aria-label="Markers" className="gap-1">
          {markers.map((one) => (
            <SourceMarker
              key={one.id}
              marker={one}
              moment={formatTime(Math.floor(one.at / positions), rate, unit)}
              onGo={() => seek(Math.floor(one.at / positions))}
              onName={(text) =>
                setMarkers(
                  'name a marker',
                  markers.map((other) => (other.id === one.id ? { ...one, name: text } : other)),
                )
              }
              onRemove={() =>
                setMarkers(
                  'remove a marker',
                  markers.filter(({ id }) => id !== one.id),
                )
              }
            />
          ))}
        </View>
      ) : null}
      <View className="gap-1">
        <Text className="font-sans text-[14px] text-bone">{sourceMeaning(source, project.sequence.rate)}</Text>
        {floor < 1 && kind !== 'sound' && kind !== 'still' ? (
          <Text className="font-sans text-[13px] text-quiet">
            {`In real time, every frame is real down to ${formatPercent(floor)}. Played at ${formatRate(project.sequence.rate)} fps, the clip runs ${formatFactor(rateRatio(fileRate(source), project.sequence.rate))} as long, sound included.`}
          </Text>
        ) : null}
      </View>
      <PlayAt source={source} />
      <VariableRate source={source} />
      <ChooseSound source={source} />
      {silentWords(soundOf(source)) ? (
        <Text role="status" className="font-sans text-[13px] text-wrong">
          {silentWords(soundOf(source))}
        </Text>
      ) : null}
      <FieldOptions source={source} />
      <ColourOptions source={source} />
      <ProxyPanel source={source} />
      <View className="flex-row items-end gap-2">
        <NameField label="Name" name={source.name} onName={rename} />
        <Button label="Replace file" onPress={() => picker.open()} />
      </View>
      {picker.picker}
      <Replacing sourceId={source.id} />
      <View className="gap-1">
        <FactRows source={source} />
        <Text className="font-sans text-[13px] text-quiet">
          {`Used by ${
            clipsOfSource(project, source.id)
              .map(({ name: clip }) => `“${clip}”`)
              .join(', ') || 'no clips'
          }.`}
        </Text>
      </View>
    </ScrollView>
  );
}

/** The file on its way to stand behind a source. */
function Replacing({ sourceId }: { sourceId: string }) {
  const uploads = useAppSelector((state) => state.uploads);
  const mine = uploads.filter(({ replaces }) => replaces === sourceId);
  return mine.length === 0 ? null : (
    <View role="list" aria-label="Importing" className="gap-2">
      {mine.map((upload) => (
        <UploadRow key={upload.id} upload={upload} />
      ))}
    </View>
  );
}

interface SourceMarkerProps {
  marker: Marker;
  moment: string;
  onGo(): void;
  onName(name: string): void;
  onRemove(): void;
}

function SourceMarker({ marker, moment, onGo, onName, onRemove }: SourceMarkerProps) {
  return (
    <View role="listitem" className="flex-row items-center gap-2 rounded-lg border border-line bg-raised px-2">
      <MarkerSign tone={marker.tone} />
      <Button label={moment} kind="quiet" onPress={onGo} />
      <NameField label={`Name of marker at ${moment}`} bare="name" name={marker.name} onName={onName} />
      <IconButton narrow label={`Remove marker at ${moment}`} icon={Trash} onPress={onRemove} />
    </View>
  );
}
