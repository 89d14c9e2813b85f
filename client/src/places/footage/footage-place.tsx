import type { ProjectDocument, Source } from '@hastig/contract';
import {
  clipFrames,
  clipMap,
  formatRate,
  formatTime,
  rateKey,
  removeSource,
  sameRate,
  sourceRate,
  standardRates,
  wholeClip,
  withSequenceRate,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useRouter } from 'expo-router';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { ReadAs } from '../../project/read-as';
import { speedRangeText, SpeedStrip } from '../../stage/strip';
import { editProject } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { importFiles } from '../../store/import-files';
import { Button, IconButton } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { EarlierStates } from './earlier-states';
import { factRows, rateMeaning } from './facts';
import { ImportArea } from './import-area';
import { Poster } from './poster';
import { UploadRow } from './upload-row';

/** A project's footage: what came in, and the clips made of it. */
export function FootagePlace({ projectId, project }: { projectId: string; project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const uploads = useAppSelector((state) => state.uploads.filter((one) => one.projectId === projectId));
  return (
    <ImportArea onFiles={(files) => void dispatch(importFiles(files))}>
      <ScrollView className="flex-1" contentContainerClassName="items-center px-4 py-4">
        <View className="w-full max-w-[1200px] gap-3">
          {uploads.length > 0 ? (
            <View role="list" aria-label="Coming in" className="gap-2">
              {uploads.map((upload) => (
                <UploadRow key={upload.id} upload={upload} />
              ))}
            </View>
          ) : null}
          {project.sources.length === 0 && uploads.length === 0 ? (
            <Text className="py-8 text-center font-sans text-[15px] text-quiet">
              Nothing here yet. Bring in a clip with the button above, or drop files anywhere on this page.
            </Text>
          ) : null}
          {project.sources.length > 0 ? <SequenceRate project={project} /> : null}
          <View role="list" aria-label="Sources" className="flex-row flex-wrap gap-3">
            {project.sources.map((source) => (
              <SourceCard key={source.id} source={source} project={project} projectId={projectId} />
            ))}
          </View>
          <EarlierStates />
        </View>
      </ScrollView>
    </ImportArea>
  );
}

/** The rate that all clips are retimed to; changing it keeps their speeds and their lengths in seconds. */
function SequenceRate({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const { rate } = project.sequence;
  const choices = standardRates.some((one) => sameRate(one, rate)) ? standardRates : [rate, ...standardRates];
  const choose = (key: string): void => {
    const chosen = choices.find((one) => rateKey(one) === key);
    if (!chosen || sameRate(chosen, rate)) return;
    dispatch(editProject('change the rate', (draft) => void Object.assign(draft, withSequenceRate(project, chosen))));
  };
  const options = choices.map((one) => ({ value: rateKey(one), label: formatRate(one) }));
  return <Choice label="Sequence, frames per second" value={rateKey(rate)} onChange={choose} options={options} />;
}

function SourceCard({ source, project, projectId }: { source: Source; project: ProjectDocument; projectId: string }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [facts, setFacts] = useState(false);
  const [leaving, setLeaving] = useState(false);
  const { rate } = project.sequence;
  const clips = project.clips.filter((clip) => clip.sourceId === source.id);
  const addClip = (): void => {
    const clip = { ...wholeClip(`clip-${nanoid(10)}`, source, rate) };
    clip.name = `${clip.name} ${clips.length + 1}`;
    dispatch(editProject('add a clip', (draft) => void draft.clips.push(clip)));
  };
  const remove = (): void => {
    dispatch(
      editProject(`remove ${source.name}`, (draft) => void Object.assign(draft, removeSource(project, source.id))),
    );
  };
  return (
    <View
      role="listitem"
      aria-label={source.name}
      className="min-w-[300px] max-w-[590px] flex-1 gap-2 rounded-xl border border-line bg-raised p-3"
    >
      <Poster sha256={source.sha256} bytes={source.facts.bytes} frames={source.facts.video.frames} name={source.name} />
      <View className="flex-row items-center">
        <View className="min-w-0 flex-1">
          <Text numberOfLines={1} className="font-medium text-[16px] text-bone">
            {source.name}
          </Text>
          <Text className="font-sans text-[13px] text-quiet">{rateMeaning(sourceRate(source), rate)}</Text>
        </View>
        <IconButton label={`New clip of ${source.name}`} icon={Plus} onPress={addClip} />
        <IconButton label={`Remove ${source.name}`} icon={Trash} onPress={() => setLeaving(!leaving)} />
      </View>
      {leaving ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Text className="font-sans text-[13px] text-wrong">{`Removes ${clips.map(({ name }) => `“${name}”`).join(', ') || 'no clip'} too; undo brings them back.`}</Text>
          <Button label="Remove" onPress={remove} />
        </View>
      ) : null}
      {clips.map((clip) => (
        <Pressable
          key={clip.id}
          role="link"
          accessibilityLabel={`Retime ${clip.name}`}
          onPress={() => router.push(`/project/${projectId}/clip/${clip.id}/pace`)}
          className="min-h-[52px] justify-center gap-2 rounded-lg border border-line bg-ink px-3 py-2 hover:border-bone"
        >
          <View className="flex-row justify-between gap-2">
            <Text numberOfLines={1} className="min-w-0 flex-1 font-sans text-[15px] text-bone">
              {clip.name}
            </Text>
            <Text className="font-mono text-[13px] tabular-nums text-quiet">
              {`${speedRangeText(clipMap(clip, source, rate))}  ${formatTime(clipFrames(project, clip), rate, 'timecode')}`}
            </Text>
          </View>
          <SpeedStrip map={clipMap(clip, source, rate)} />
        </Pressable>
      ))}
      <Pressable
        role="button"
        aria-expanded={facts}
        accessibilityLabel={`Facts of ${source.name}`}
        onPress={() => setFacts(!facts)}
        className="min-h-[44px] justify-center"
      >
        <Text className="font-sans text-[13px] text-quiet underline">
          {facts ? 'Hide the facts' : 'Show the facts'}
        </Text>
      </Pressable>
      {facts ? <ReadAs project={project} source={source} /> : null}
      {facts ? (
        <View className="gap-1">
          {factRows(source.facts, source.readAs).map(([name, value]) => (
            <View key={name} className="flex-row gap-3">
              <Text className="w-[104px] font-sans text-[13px] text-quiet">{name}</Text>
              <Text className="min-w-0 flex-1 font-mono text-[13px] tabular-nums text-bone">{value}</Text>
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}
