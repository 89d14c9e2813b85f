import type { Clip, ProjectDocument } from '@hastig/contract';
import { clipAt, findContainer, placeOf } from '@hastig/core';
import type { Command } from '../../../commands/command';
import type { SpotAt } from '../../../sound-effects/drag-effect';
import type { TimeContext } from '../../../commands/general';
import { clipsSelected, noticeSet, type SessionState } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';

/** What the commands of the timeline work on. */
export interface TimelineContext extends TimeContext, Pick<SessionState, 'selectedClips' | 'copied'> {
  /** The sequence or group whose inside is open. */
  containerId: string;
  /** The project as it is drawn; `state` has it as it is. */
  project: ProjectDocument;
  state(): RootState;
  seek(frame: number): void;
  /** Leads to another place of the project. */
  go(address: string): void;
  /** Opens another command's sheet. */
  open(id: string): void;
  /** Whether a tap chooses one more clip. */
  several: boolean;
  setSeveral(several: boolean): void;
  close(): void;
}

/** What the sheets of the timeline are given. */
export interface TimelineSheetProps {
  containerId: string;
  /** The clips that are meant, and the first of them. */
  clipIds: readonly string[];
  clip: Clip | undefined;
  /** The film's effect that is open, by its id; a new one where it is not told. */
  effect?: string;
  spotAt: SpotAt;
  onClose(): void;
}

export type TimelineCommand = Command<TimelineContext, TimelineSheetProps>;

/** The chosen clips that lie here, or the uppermost one at the playhead. */
export function aimedClips(
  project: ProjectDocument,
  containerId: string,
  chosen: readonly string[],
  playhead: number,
): string[] {
  const here = chosen.filter((id) => placeOf(project, id)?.containerId === containerId);
  if (here.length > 0) return here;
  const tracks = findContainer(project, containerId)?.tracks.toReversed() ?? [];
  const at = tracks.map((track) => clipAt(project, track, playhead)).find((item) => item?.clip);
  return at?.clip ? [at.clip.id] : [];
}

/** The project as it is, and the clips that are meant in it. */
export function aimed({ state, containerId, now }: TimelineContext): { document: ProjectDocument; ids: string[] } {
  const { project, session } = state();
  const document = project.document!;
  return { document, ids: aimedClips(document, containerId, session.selectedClips, now()) };
}

export function select({ dispatch }: TimelineContext, ids: string[]): void {
  dispatch(clipsSelected(ids));
}

/** Says that a clip is needed. */
export function tellNone({ dispatch }: TimelineContext): void {
  dispatch(noticeSet('Select a clip first, or move the playhead over one.'));
}

/** For the first clip that is meant; says so where there is none. */
export const onOne = (run: (context: TimelineContext, clipId: string) => void) =>
  onAll((context, [id]) => run(context, id!));

/** For all clips that are meant; says so where there are none. */
export function onAll(run: (context: TimelineContext, clipIds: string[]) => void): (context: TimelineContext) => void {
  return (context) => {
    const { ids } = aimed(context);
    if (ids.length > 0) run(context, ids);
    else tellNone(context);
  };
}

/** What is aimed at stays aimed at while its sheet is open, wherever the playhead goes. */
export function readyWithClip(context: TimelineContext): boolean {
  const { ids } = aimed(context);
  if (ids.length === 0) tellNone(context);
  else if (context.selectedClips.length === 0) select(context, ids.slice(0, 1));
  return ids.length > 0;
}
