import { findClip, findContainer, findGroup, findSource, placeOf, SEQUENCE, type StageTarget } from '@hastig/core';
import { Slot, useRouter } from 'expo-router';
import { useEffect } from 'react';
import { View } from 'react-native';
import { PathStrip } from '../path/path-strip';
import { GripProvider } from '../stage/grip-context';
import { ComparedReadout } from '../stage/compared-readout';
import { ClipReadout } from '../stage/clip-readout';
import { SequenceReadout } from '../stage/sequence-readout';
import { SourceReadout } from '../stage/source-readout';
import { StageProvider } from '../stage/stage-context';
import { ThumbsProvider } from '../stage/thumbs-context';
import { openTarget } from '../store/open-target';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { openClip } from '../store/selectors';
import type { RootState } from '../store/store';
import { timelineAddress } from './addresses';
import { Arranged } from './arranged';
import { Button } from '../ui/button';
import { LostPage } from '../ui/lost-page';
import { ProjectHeader } from './project-header';
import { ProjectNotices } from './project-notices';

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
      <PathStrip />
      <View className="min-h-0 flex-1">
        <ThumbsProvider>
          <StageProvider>
            <GripProvider>
              {there ? (
                <Arranged
                  projectId={projectId}
                  clipId={clipId}
                  readout={entered ? <Readout clipId={clipId} sourceId={sourceId} /> : null}
                />
              ) : (
                <>
                  <GoneFromProject kind={clipId ? 'clip' : sourceId ? 'source' : 'group'} projectId={projectId} />
                  {/* Without a slot for it, the router would go to an address that has one. */}
                  <div hidden>
                    <Slot />
                  </div>
                </>
              )}
            </GripProvider>
          </StageProvider>
        </ThumbsProvider>
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

// Out of a group to where it is shown.
function backFromGroup(projectId: string, project: Project, groupId: string): string {
  const shows = project.clips.find(({ of }) => of.kind === 'group' && of.id === groupId);
  const place = shows && placeOf(project, shows.id);
  return timelineAddress(projectId, place?.containerId ?? SEQUENCE);
}

/** An address of something that was removed, here or elsewhere. */
function GoneFromProject({ kind, projectId }: { kind: string; projectId: string }) {
  const router = useRouter();
  return (
    <LostPage title={`This ${kind} is no longer in the project`} text="It was removed. Undo may bring it back.">
      <Button label="Timeline" kind="primary" onPress={() => router.replace(`/project/${projectId}/timeline`)} />
      <Button label="Footage" onPress={() => router.replace(`/project/${projectId}`)} />
    </LostPage>
  );
}

function Readout({ clipId, sourceId }: Pick<WorkFrameProps, 'clipId' | 'sourceId'>) {
  const comparing = useAppSelector((state) => state.compare.on !== null);
  if (comparing) return <ComparedReadout />;
  if (clipId) return <ClipReadout clipId={clipId} />;
  return sourceId ? <SourceReadout /> : <SequenceReadout />;
}
