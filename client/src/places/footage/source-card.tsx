import type { ProjectDocument, Source } from '@hastig/contract';
import {
  appendClip,
  clipsOfSource,
  formatTime,
  kindOf,
  mapOf,
  outputRateOf,
  removeSource,
  SEQUENCE,
  wholeClip,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useRouter } from 'expo-router';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { ChooseSound } from '../../project/choose-sound';
import { VariableRate } from '../../project/variable-rate';
import { PlayAt } from '../../project/play-at';
import { FieldOptions } from '../../project/field-options';
import { WavePoster } from '../../sound/wave-poster';
import { speedRangeText, SpeedStrip } from '../../stage/strip';
import { rearrange } from '../../store/edit';
import { useAppDispatch } from '../../store/hooks';
import { Button, IconButton } from '../../ui/button';
import { FactRows } from './fact-rows';
import { isInterlaced, scanMeaning, sourceMeaning } from './facts';
import { Poster } from './poster';

/** Clips of a source shown at first, and with each wish for more. */
const FIRST_CLIPS = 6;
const MORE_CLIPS = 30;

interface SourceCardProps {
  source: Source;
  project: ProjectDocument;
  projectId: string;
}

function clipsInWords(clips: readonly { name: string }[]): string {
  const named = clips.slice(0, FIRST_CLIPS).map(({ name }) => `“${name}”`);
  const left = clips.length - named.length;
  return [...named, ...(left > 0 ? [`${left} more`] : [])].join(', ') || 'no clips';
}

/** A source: what it is, what that means here, and the clips made of it. */
export function SourceCard({ source, project, projectId }: SourceCardProps) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [facts, setFacts] = useState(false);
  const [leaving, setLeaving] = useState(false);
  const [most, setMost] = useState(FIRST_CLIPS);
  const { rate } = project.sequence;
  const clips = clipsOfSource(project, source.id);
  const addClip = (): void => {
    const clip = wholeClip(project, `clip-${nanoid(10)}`, source);
    const named = clips.length === 0 ? clip : { ...clip, name: `${clip.name} ${clips.length + 1}` };
    dispatch(rearrange('add a clip', (now) => appendClip(now, SEQUENCE, named)));
  };
  const remove = (): void => {
    dispatch(rearrange(`remove ${source.name}`, (now) => removeSource(now, source.id)));
  };
  return (
    <View className="gap-2 rounded-xl border border-line bg-raised p-3">
      <Pressable
        role="link"
        accessibilityLabel={`Open ${source.name}`}
        onPress={() => router.push(`/project/${projectId}/source/${source.id}`)}
        className="rounded-lg hover:opacity-90"
      >
        {kindOf(source.facts) === 'sound' ? <WavePoster source={source} /> : <Poster source={source} />}
      </Pressable>
      <View className="flex-row items-center">
        <View className="min-w-0 flex-1">
          <Text numberOfLines={1} className="font-medium text-[16px] text-bone">
            {source.name}
          </Text>
          <Text className="font-sans text-[13px] text-quiet">{sourceMeaning(source, rate)}</Text>
          {isInterlaced(source) ? (
            <Text className="font-sans text-[13px] text-quiet">{scanMeaning(source)}</Text>
          ) : null}
        </View>
        <IconButton label={`Add ${source.name} to timeline`} icon={Plus} onPress={addClip} />
        <IconButton label={`Remove ${source.name}`} icon={Trash} onPress={() => setLeaving(!leaving)} />
      </View>
      {leaving ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Text className="font-sans text-[13px] text-wrong">{`This also removes ${clipsInWords(clips)}. You can undo it.`}</Text>
          <Button label="Remove" onPress={remove} />
        </View>
      ) : null}
      {clips.slice(0, most).map((clip) => (
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
      {clips.length > most ? (
        <Button
          kind="quiet"
          label={`Show ${Math.min(MORE_CLIPS, clips.length - most)} more of ${clips.length} clips`}
          onPress={() => setMost(most + MORE_CLIPS)}
        />
      ) : null}
      <Pressable
        role="button"
        aria-expanded={facts}
        accessibilityLabel={`Details of ${source.name}`}
        onPress={() => setFacts(!facts)}
        className="min-h-[44px] justify-center"
      >
        <Text className="font-sans text-[13px] text-quiet underline">{facts ? 'Hide details' : 'Show details'}</Text>
      </Pressable>
      {facts ? <PlayAt source={source} /> : null}
      {facts ? <VariableRate source={source} /> : null}
      {facts ? <ChooseSound source={source} /> : null}
      {facts && isInterlaced(source) ? <FieldOptions source={source} /> : null}
      {facts ? <FactRows source={source} /> : null}
    </View>
  );
}
