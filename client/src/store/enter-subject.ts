import { sameMoment, type Subject } from '@hastig/core';
import { subjectEntered } from './session-slice';
import type { AppThunk } from './store';

/**
 * Puts something else on the stage. The playhead stays on the same picture where the two have one in common; else it goes
 * to where it last stood there.
 */
export function enterSubject(subject: Subject): AppThunk {
  return (dispatch, getState) => {
    const { project, session } = getState();
    const keyOf = (of: Subject): string => JSON.stringify([project.id, of]);
    const left = session.subject ? { ...session.left, [keyOf(session.subject)]: session.playhead } : session.left;
    const same =
      project.document && session.subject
        ? sameMoment(project.document, session.subject, subject, session.playhead, session.selectedClips)
        : undefined;
    dispatch(subjectEntered({ subject, playhead: same ?? left[keyOf(subject)] ?? 0, left }));
  };
}
