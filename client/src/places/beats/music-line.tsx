import { positionSeconds, type SeenMarker } from '@hastig/core';
import { useLocalSearchParams, useRouter, type Href } from 'expo-router';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import { useMemo } from 'react';
import { Text, View } from 'react-native';
import { spacingWords } from '../../beats/beat-words';
import { musicClips, type MusicClip } from '../../beats/music';
import type { AnalysisState } from '../../beats/use-analysis';
import { timelineAddress } from '../../project/addresses';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { clipsSelected } from '../../store/session-slice';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';

interface MusicLineProps {
  containerId: string;
  music: MusicClip;
  markers: readonly SeenMarker[];
  state: AnalysisState;
}

/** What is listened to, and what its markers come to; where several clips sound, which of them. */
export function MusicLine({ containerId, music, markers, state }: MusicLineProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((now) => now.project.document)!;
  const clips = useMemo(
    () => musicClips(project, containerId).filter(({ source }) => !source.facts.video),
    [project, containerId],
  );
  const words = state.fault ?? progressWords(state) ?? spacingWords(secondsOf(music, markers));
  return (
    <View className="gap-1 px-3 py-1">
      <Text
        role="status"
        numberOfLines={1}
        className={`font-sans text-[13px] ${state.fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {`${music.clip.name} · ${words}`}
      </Text>
      {clips.length > 1 ? (
        <Choice
          label="Music"
          value={music.clip.id}
          options={clips.map(({ clip }) => ({ value: clip.id, label: clip.name }))}
          onChange={(id) => dispatch(clipsSelected([id]))}
        />
      ) : null}
    </View>
  );
}

const secondsOf = ({ source }: MusicClip, markers: readonly SeenMarker[]): number[] =>
  markers.map(({ marker }) => positionSeconds(source, marker.at));

function progressWords({ progress, searching }: AnalysisState): string | undefined {
  if (progress === null && !searching) return undefined;
  const share = progress === null ? '…' : `: ${Math.round(progress * 100)}%`;
  return `${searching ? 'Searching for beats' : 'Analysing'}${share}`;
}

/** In place of a waveform, where nothing on the timeline sounds. */
export function NoMusic({ containerId }: { containerId: string }) {
  const router = useRouter();
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <View className="flex-1 items-center gap-3 p-6">
      <Text className="text-center font-sans text-[15px] text-quiet">
        Nothing on this timeline has sound. Add music to it first.
      </Text>
      <Button
        label="Timeline"
        icon={ChartNoAxesGantt}
        onPress={() => router.push(timelineAddress(id, containerId) as Href)}
      />
    </View>
  );
}
