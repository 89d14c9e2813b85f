import { addKey, frameCount } from '@hastig/core';
import { Slot } from 'expo-router';
import { useEffect } from 'react';
import { Text, View } from 'react-native';
import { useStore } from 'react-redux';
import { useShortcuts } from '../keyboard/use-shortcuts';
import { Picture } from '../stage/picture';
import { Readout } from '../stage/readout';
import { StageProvider, useStage } from '../stage/stage-context';
import { Transport } from '../stage/transport';
import { retime } from '../store/edit';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { openClip, shownMap } from '../store/selectors';
import { clipEntered } from '../store/session-slice';
import type { RootState } from '../store/store';
import { useWide } from '../ui/use-wide';
import { PlaceBar } from './place-bar';
import { ProjectHeader } from './project-header';
import { ProjectNotices } from './project-notices';

/** The frame of a project's places: the stage above, the place beneath, the bar at its side. */
export function ClipFrame({ projectId, clipId }: { projectId: string; clipId: string }) {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => openClip(state, clipId));
  const map = useAppSelector((state) => shownMap(state, clipId));
  const project = useAppSelector((state) => state.project.document);
  useEffect(() => void dispatch(clipEntered()), [dispatch, clipId]);
  if (!open || !map || !project) {
    return (
      <View className="flex-1 bg-ink">
        <ProjectHeader title={project?.name ?? 'Hastig'} back={`/project/${projectId}`} />
        <ProjectNotices />
        <Text className="p-6 text-center font-sans text-[15px] text-quiet">
          This clip is not in the project any more.
        </Text>
      </View>
    );
  }
  const frames = frameCount(map);
  const { clip, source } = open;
  return (
    <StageProvider key={source.id} clipId={clipId} source={source} frames={frames}>
      <View className="flex-1 bg-ink">
        <ProjectHeader title={`${project.name} · ${clip.name}`} back={`/project/${projectId}`} />
        <ProjectNotices />
        <Arrangement projectId={projectId} clipId={clipId}>
          <Picture width={source.facts.video.width} height={source.facts.video.height} name={clip.name} />
          <View className="flex-none border-b border-line">
            <Readout clipId={clipId} map={map} frames={frames} />
            <Transport frames={frames} />
          </View>
        </Arrangement>
      </View>
    </StageProvider>
  );
}

function Arrangement({
  projectId,
  clipId,
  children,
}: {
  projectId: string;
  clipId: string;
  children: React.ReactNode;
}) {
  const wide = useWide();
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { toggle, step, seek } = useStage();
  useShortcuts({
    space: toggle,
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
    'shift+ArrowRight': () => step(10),
    'shift+ArrowLeft': () => step(-10),
    Home: () => seek(0),
    End: () => seek(Number.MAX_SAFE_INTEGER),
    k: () => dispatch(retime('add a key', clipId, (map) => addKey(map, store.getState().session.playhead))),
  });
  const base = `/project/${projectId}/clip/${clipId}`;
  const stage = <View className={wide ? 'min-h-0 flex-[1.15]' : 'h-[38%] min-h-[250px] flex-none'}>{children}</View>;
  const place = (
    <View className="min-h-0 flex-1">
      <Slot />
    </View>
  );
  return wide ? (
    <View className="min-h-0 flex-1 flex-row">
      <PlaceBar base={base} rail />
      <View className="min-h-0 min-w-0 flex-1">
        {stage}
        {place}
      </View>
    </View>
  ) : (
    <View className="min-h-0 flex-1">
      {stage}
      {place}
      <PlaceBar base={base} rail={false} />
    </View>
  );
}
