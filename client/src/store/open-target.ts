import { sameMoment, type StageTarget } from '@hastig/core';
import { targetOpened } from './session-slice';
import type { AppThunk } from './store';

/**
 * Puts something else on the stage. The playhead stays on the same picture where the two have one in common; else it goes
 * to where it last stood there.
 */
export function openTarget(target: StageTarget): AppThunk {
  return (dispatch, getState) => {
    const { project, session } = getState();
    const keyOf = (of: StageTarget): string => JSON.stringify([project.id, of]);
    const playheads = session.target
      ? { ...session.playheads, [keyOf(session.target)]: session.playhead }
      : session.playheads;
    const same =
      project.document && session.target
        ? sameMoment(project.document, session.target, target, session.playhead, session.selectedClips)
        : undefined;
    dispatch(targetOpened({ target, playhead: same ?? playheads[keyOf(target)] ?? 0, playheads }));
  };
}
