import { frameCount } from '@hastig/core';
import { Slot } from 'expo-router';
import { useEffect, useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { keysFor } from '../keyboard/keys';
import { useShortcuts } from '../keyboard/use-shortcuts';
import { Picture } from '../stage/picture';
import { Readout } from '../stage/readout';
import { StageProvider, useStage } from '../stage/stage-context';
import { Transport } from '../stage/transport';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { openClip, shownMap } from '../store/selectors';
import { clipEntered, loopToggled, unitCycled } from '../store/session-slice';
import { useWide } from '../ui/use-wide';
import { SideContext } from './side';
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

const sideStyle = { display: 'flex', minHeight: 0, flex: 'none' } as const;

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
  const { toggle, step, seek } = useStage();
  useShortcuts(
    keysFor({
      play: toggle,
      'frame-on': () => step(1),
      'frame-back': () => step(-1),
      'ten-on': () => step(10),
      'ten-back': () => step(-10),
      'first-frame': () => seek(0),
      'last-frame': () => seek(Number.MAX_SAFE_INTEGER),
      loop: () => dispatch(loopToggled()),
      unit: () => dispatch(unitCycled()),
    }),
  );
  const base = `/project/${projectId}/clip/${clipId}`;
  const [beside, setBeside] = useState<HTMLElement | null>(null);
  const [column, setColumn] = useState<HTMLElement | null>(null);
  const sides = useMemo(() => ({ beside, column }), [beside, column]);
  const stage = <View className={wide ? 'min-h-0 min-w-0 flex-1' : 'h-[34%] min-h-[230px] flex-none'}>{children}</View>;
  const place = (
    <View className="min-h-0 flex-1">
      <Slot />
    </View>
  );
  return wide ? (
    <View className="min-h-0 flex-1 flex-row">
      <PlaceBar base={base} rail />
      <View className="min-h-0 min-w-0 flex-1">
        <View className="min-h-0 flex-[0.82] flex-row">
          {stage}
          {/* What the place shows beside the picture; nothing while it shows nothing. */}
          <div ref={setBeside} style={sideStyle} />
        </View>
        <SideContext value={sides}>{place}</SideContext>
      </View>
      <div ref={setColumn} style={sideStyle} />
    </View>
  ) : (
    <View className="min-h-0 flex-1">
      {stage}
      {place}
      <PlaceBar base={base} rail={false} />
    </View>
  );
}
