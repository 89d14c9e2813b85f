import type { Clip, ProjectDocument } from '@hastig/contract';
import { clipAt, findClip, findContainer, mapOf, momentAt, sourceFrames } from '@hastig/core';
import type { SessionState } from './session-slice';

/** What of the store says where the playhead stands. */
interface AtPlayhead {
  project: { document: ProjectDocument | null };
  session: Pick<SessionState, 'target' | 'playhead'>;
}

/** Where in its source a clip is at an output frame of its own timing, 0 to 1. */
function shareIn(project: ProjectDocument, clip: Clip, frame: number): number {
  const source = project.sources.find(({ id }) => clip.of.kind === 'source' && id === clip.of.id);
  if (!source) return 0;
  return Math.min(1, Math.max(0, momentAt(mapOf(project, clip), frame).source / sourceFrames(source)));
}

/** Where in a file the playhead stands, 0 to 1: in the source, the clip or the timeline on the stage; 0 where it shows another. */
export function shareAtPlayhead({ project: { document }, session }: AtPlayhead, sha256: string): number {
  const { target, playhead } = session;
  if (!document || !target) return 0;
  const isOf = (clip: Clip | undefined): clip is Clip =>
    clip?.of.kind === 'source' && document.sources.some(({ id, ...one }) => id === clip.of.id && one.sha256 === sha256);
  if ('source' in target) {
    const source = document.sources.find(({ id }) => id === target.source);
    return source?.sha256 === sha256 ? Math.min(1, playhead / sourceFrames(source)) : 0;
  }
  if ('clip' in target) {
    const clip = findClip(document, target.clip);
    return isOf(clip) ? shareIn(document, clip, playhead) : 0;
  }
  for (const track of findContainer(document, target.container)?.tracks ?? []) {
    const item = clipAt(document, track, playhead);
    if (item && isOf(item.clip)) return shareIn(document, item.clip, playhead - item.from + item.clip.shown.from);
  }
  return 0;
}
