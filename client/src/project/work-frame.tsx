import {
  clipAt,
  findClip,
  findContainer,
  findGroup,
  findSource,
  placeOf,
  SEQUENCE,
  type StageTarget,
} from '@hastig/core';
import { Slot } from 'expo-router';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { movingCommands } from '../commands/general';
import { useCommandKeys } from '../commands/use-commands';
import { GripProvider } from '../stage/grip-context';
import { Picture } from '../stage/picture';
import { ClipReadout } from '../stage/clip-readout';
import { SequenceReadout } from '../stage/sequence-readout';
import { SourceReadout } from '../stage/source-readout';
import { StageProvider, useStage } from '../stage/stage-context';
import { ThumbsProvider } from '../stage/thumbs-context';
import { Transport } from '../stage/transport';
import { openTarget } from '../store/open-target';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { openClip } from '../store/selectors';
import type { RootState } from '../store/store';
import { useArrangement, type Arrangement } from '../ui/use-wide';
import { PlaceBar } from './place-bar';
import { ProjectHeader } from './project-header';
import { ProjectNotices } from './project-notices';
import { SideContext } from './side';

interface WorkFrameProps {
  projectId: string;
  /** The clip, group or source of the address; none of them is the sequence. */
  clipId?: string | undefined;
  groupId?: string | undefined;
  sourceId?: string | undefined;
}

/** What the address is about. */
function targetOf({ clipId, groupId, sourceId }: Omit<WorkFrameProps, 'projectId'>): StageTarget {
  if (clipId) return { clip: clipId };
  return sourceId ? { source: sourceId } : { container: groupId ?? SEQUENCE };
}

/** The frame of a project's places: the stage above, the place beneath, the bar at its side. It outlives the places. */
export function WorkFrame({ projectId, ...address }: WorkFrameProps) {
  const { clipId, groupId, sourceId } = address;
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document);
  const entered = useAppSelector((state) => isTarget(state, targetOf(address)));
  const there = useAppSelector((state) => isThere(state, targetOf(address)));
  useEffect(() => {
    dispatch(openTarget(targetOf({ clipId, groupId, sourceId })));
  }, [dispatch, clipId, groupId, sourceId]);
  if (!project) return null;
  const name = clipId
    ? findClip(project, clipId)?.name
    : groupId
      ? findGroup(project, groupId)?.name
      : sourceId && findSource(project, sourceId)?.name;
  const back = groupId ? backFromGroup(projectId, project, groupId) : `/project/${projectId}`;
  return (
    <View className="flex-1 bg-ink">
      <ProjectHeader
        title={name ? `${project.name} · ${name}` : project.name}
        back={there ? back : `/project/${projectId}`}
      />
      <ProjectNotices />
      <View role="main" className="min-h-0 flex-1">
        {there ? (
          <ThumbsProvider>
            <StageProvider>
              <GripProvider>
                <Arranged projectId={projectId} clipId={clipId}>
                  <Picture />
                  <View className="flex-none border-b border-line">
                    {entered ? <StageFoot clipId={clipId} sourceId={sourceId} /> : null}
                  </View>
                </Arranged>
              </GripProvider>
            </StageProvider>
          </ThumbsProvider>
        ) : (
          <Text className="p-6 text-center font-sans text-[15px] text-quiet">
            {`This ${clipId ? 'clip' : sourceId ? 'source' : 'group'} is no longer in the project.`}
          </Text>
        )}
      </View>
    </View>
  );
}

function isTarget({ session: { target } }: RootState, wanted: StageTarget): boolean {
  return target !== null && JSON.stringify(target) === JSON.stringify(wanted);
}

function isThere(state: RootState, target: StageTarget): boolean {
  const { document } = state.project;
  if (!document) return false;
  if ('clip' in target) return openClip(state, target.clip) !== undefined;
  if ('source' in target) return findSource(document, target.source) !== undefined;
  return findContainer(document, target.container) !== undefined;
}

type Project = NonNullable<RootState['project']['document']>;

/** The timeline that something lies on: the sequence's, or a group's. */
function timelineAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/timeline` : `/project/${projectId}/group/${containerId}`;
}

// Out of a group to where it is shown.
function backFromGroup(projectId: string, project: Project, groupId: string): string {
  const shows = project.clips.find(({ of }) => of.kind === 'group' && of.id === groupId);
  const place = shows && placeOf(project, shows.id);
  return timelineAddress(projectId, place?.containerId ?? SEQUENCE);
}

function StageFoot({ clipId, sourceId }: Pick<WorkFrameProps, 'clipId' | 'sourceId'>) {
  return (
    <>
      {clipId ? <ClipReadout clipId={clipId} /> : sourceId ? <SourceReadout /> : <SequenceReadout />}
      <Transport />
    </>
  );
}

/** The clip a place is about that is about one: the one on the stage, a chosen one, or the one at the playhead. */
function currentClip({ project: { document }, session }: RootState): string | undefined {
  const { target, selectedClips, playhead } = session;
  if (!document || !target) return undefined;
  if ('clip' in target) return target.clip;
  if ('source' in target) return undefined;
  const container = findContainer(document, target.container);
  const chosen = selectedClips.find((id) => placeOf(document, id)?.containerId === target.container);
  if (chosen || !container) return chosen;
  const seen = container.tracks.toReversed().map((track) => clipAt(document, track, playhead));
  const first = container.tracks.flatMap(({ items }) => items).find((item) => 'clip' in item);
  return seen.find((item) => item?.clip)?.clip?.id ?? (first && 'clip' in first ? first.clip : undefined);
}

function containerOf({ project: { document }, session: { target } }: RootState): string {
  if (!target) return SEQUENCE;
  if ('container' in target) return target.container;
  if ('source' in target) return SEQUENCE;
  return (document && placeOf(document, target.clip)?.containerId) ?? SEQUENCE;
}

/**
 * Where stage, place and bar lie. Only this changes with the window's size: the elements stay the same ones, so that a device
 * may be turned while it plays, and with a form half filled in.
 */
const areas = {
  wide: {
    gridTemplate: '"bar stage beside sheet" 0.82fr "bar place place sheet" 1fr / auto minmax(0, 1fr) auto auto',
  },
  turned: {
    gridTemplate: '"bar stage place" minmax(0, 1fr) "bar stage sheet" auto / auto minmax(0, 0.85fr) minmax(0, 1fr)',
  },
  phone: {
    gridTemplate: '"stage" max(34%, 230px) "place" minmax(0, 1fr) "sheet" auto "bar" auto / minmax(0, 1fr)',
  },
} as const satisfies Record<Arrangement, object>;

const areaStyle = (gridArea: string) => ({ gridArea, display: 'flex', minHeight: 0, minWidth: 0 }) as const;
const columnStyle = (gridArea: string) => ({ ...areaStyle(gridArea), flexDirection: 'column' }) as const;

function Arranged({
  projectId,
  clipId,
  children,
}: {
  projectId: string;
  clipId: string | undefined;
  children: ReactNode;
}) {
  const arrangement = useArrangement();
  const dispatch = useAppDispatch();
  const stage = useStage();
  useCommandKeys(movingCommands, { dispatch, stage });
  const paced = useAppSelector(currentClip);
  const container = useAppSelector(containerOf);
  const base = `/project/${projectId}`;
  const addresses = {
    timeline: timelineAddress(projectId, container),
    pace: paced && `${base}/clip/${paced}/pace`,
    output: clipId ? `${base}/clip/${clipId}/output` : `${base}/output`,
  };
  const [beside, setBeside] = useState<HTMLElement | null>(null);
  const [sheet, setSheet] = useState<HTMLElement | null>(null);
  const sides = useMemo(() => ({ beside, sheet }), [beside, sheet]);
  return (
    <div style={{ display: 'grid', flex: 1, minHeight: 0, ...areas[arrangement] }}>
      <div style={columnStyle('bar')}>
        <PlaceBar addresses={addresses} rail={arrangement !== 'phone'} />
      </div>
      <div style={columnStyle('stage')}>{children}</div>
      <div ref={setBeside} style={arrangement === 'wide' ? areaStyle('beside') : { display: 'none' }} />
      <div style={columnStyle('place')}>
        <SideContext value={sides}>
          <Slot />
        </SideContext>
      </div>
      <div ref={setSheet} style={columnStyle('sheet')} />
    </div>
  );
}
