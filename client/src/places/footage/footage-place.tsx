import type { ProjectDocument, Source } from '@hastig/contract';
import {
  appendClip,
  clipsOfSource,
  FIRST_TRACK,
  formatRate,
  formatTime,
  mapOf,
  outputRateOf,
  rateKey,
  removeSource,
  sameRate,
  SEQUENCE,
  sourceRate,
  standardRates,
  wholeClip,
  withSequenceRate,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useRouter } from 'expo-router';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { useMemo, useState } from 'react';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { ReadAs } from '../../project/read-as';
import { TakeFields } from '../../project/take-fields';
import { speedRangeText, SpeedStrip } from '../../stage/strip';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { importFiles } from '../../store/import-files';
import { Button, IconButton } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { useWide } from '../../ui/use-wide';
import { arranged, sourceOrders, type SourceOrder } from './arranged';
import { EarlierStates } from './earlier-states';
import { factRows, isInterlaced, rateMeaning, scanMeaning } from './facts';
import { ImportArea } from './import-area';
import { Poster } from './poster';
import { UploadRow } from './upload-row';

/** A project's footage: what came in, and the clips made of it. */
export function FootagePlace({ projectId, project }: { projectId: string; project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const uploads = useAppSelector((state) => state.uploads.filter((one) => one.projectId === projectId));
  const wide = useWide();
  const [find, setFind] = useState('');
  const [order, setOrder] = useState<SourceOrder>('arrival');
  const shown = useMemo(() => arranged(project.sources, find, order), [project.sources, find, order]);
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
          {project.sources.length > 0 ? <ToTheTimeline projectId={projectId} project={project} /> : null}
          {project.sources.length > 1 ? (
            <View className={wide ? 'max-w-[720px] flex-row items-start gap-3' : 'gap-3'}>
              <Field label="Find" words value={find} onChange={setFind} hint="by name, codec or frames per second" />
              <Choice label="In order of" value={order} onChange={setOrder} options={sourceOrders} />
            </View>
          ) : null}
          {shown.length === 0 && project.sources.length > 0 ? (
            <Text className="py-4 text-center font-sans text-[15px] text-quiet">{`Nothing here is called “${find}”.`}</Text>
          ) : null}
          <View role="list" aria-label="Sources" className="flex-row flex-wrap gap-3">
            {shown.map((source) => (
              <SourceCard key={source.id} source={source} project={project} projectId={projectId} />
            ))}
          </View>
          <EarlierStates />
        </View>
      </ScrollView>
    </ImportArea>
  );
}

/** The way to the timeline, and whether what comes in goes there by itself. */
function ToTheTimeline({ projectId, project }: { projectId: string; project: ProjectDocument }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const { arrivals } = project.defaults;
  const choose = (value: typeof arrivals): void =>
    void dispatch(
      rearrange('choose where footage goes', (now) => ({ ...now, defaults: { ...now.defaults, arrivals: value } })),
    );
  return (
    <View className="gap-3">
      <View className="flex-row">
        <Button
          label="Timeline"
          icon={ChartNoAxesGantt}
          onPress={() => router.push(`/project/${projectId}/timeline`)}
        />
      </View>
      <SequenceRate project={project} />
      <View className="flex-row">
        <Choice
          label="Footage that comes in"
          value={arrivals}
          onChange={choose}
          options={[
            { value: 'lay', label: 'Is laid on the timeline' },
            { value: 'wait', label: 'Waits here' },
          ]}
        />
      </View>
    </View>
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
    dispatch(rearrange('change the rate', (now) => withSequenceRate(now, chosen)));
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
  const clips = clipsOfSource(project, source.id);
  const addClip = (): void => {
    const clip = wholeClip(project, `clip-${nanoid(10)}`, source);
    const named = clips.length === 0 ? clip : { ...clip, name: `${clip.name} ${clips.length + 1}` };
    dispatch(rearrange('add a clip', (now) => appendClip(now, SEQUENCE, FIRST_TRACK, named)));
  };
  const remove = (): void => {
    dispatch(rearrange(`remove ${source.name}`, (now) => removeSource(now, source.id)));
  };
  return (
    <View
      role="listitem"
      aria-label={source.name}
      className="min-w-[300px] max-w-[590px] flex-1 gap-2 rounded-xl border border-line bg-raised p-3"
    >
      <Pressable
        role="link"
        accessibilityLabel={`Look at ${source.name}`}
        onPress={() => router.push(`/project/${projectId}/source/${source.id}`)}
        className="rounded-lg hover:opacity-90"
      >
        <Poster source={source} />
      </Pressable>
      <View className="flex-row items-center">
        <View className="min-w-0 flex-1">
          <Text numberOfLines={1} className="font-medium text-[16px] text-bone">
            {source.name}
          </Text>
          <Text className="font-sans text-[13px] text-quiet">{rateMeaning(sourceRate(source), rate)}</Text>
          {isInterlaced(source) ? (
            <Text className="font-sans text-[13px] text-quiet">{scanMeaning(source)}</Text>
          ) : null}
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
              {`${speedRangeText(mapOf(project, clip))}  ${formatTime(clip.shown.frames, outputRateOf(project, clip.id), 'timecode')}`}
            </Text>
          </View>
          <SpeedStrip map={mapOf(project, clip)} />
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
      {facts ? <ReadAs source={source} /> : null}
      {facts && isInterlaced(source) ? <TakeFields source={source} /> : null}
      {facts ? (
        <View className="gap-1">
          {factRows(source).map(([name, value]) => (
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
