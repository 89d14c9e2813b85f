import { checkChangedDocument, describeErrors, type ProjectDocument, type RetimeMap } from '@hastig/contract';
import { EditRefused, holdPins, integrityErrorsOfChange, pinsWithMarkers, tooMuch, withTiming } from '@hastig/core';
import { difference } from './difference';
import { edited } from './project-slice';
import { messageSet, noticeSet, projectTried } from './session-slice';
import { openClip } from './selectors';
import { still } from './still';
import type { AppThunk } from './store';

/**
 * Makes the document another one, as one step of history that tells only what differs, and ends what was being tried out. A
 * change that changes nothing leaves no trace; pins go along with the markers they lie on, where that is chosen; one that makes the project too large is refused, and why is told.
 *
 * @returns whether the project is that one now
 */
export function commitProject(label: string, next: ProjectDocument): AppThunk<boolean> {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (!document) return false;
    const followed = getState().session.pinsFollow ? pinsWithMarkers(document, next) : { project: next, stayed: [] };
    const result = followed.project;
    const full = tooMuch(result);
    if (full) {
      dispatch(projectTried(null));
      dispatch(noticeSet(full));
      return false;
    }
    const patches = difference(document, result);
    const refusal = patches.length > 0 ? refusalOf(document, result) : undefined;
    if (refusal) {
      dispatch(projectTried(null));
      dispatch(noticeSet(refusal));
      return false;
    }
    if (patches.length > 0) {
      const step = { label, patches: still(patches), inverse: still(difference(result, document)) };
      dispatch(edited({ document: still(result), step: still(step) }));
    }
    dispatch(projectTried(null));
    if (followed.stayed.length > 0)
      dispatch(messageSet(`Pins in ${followed.stayed.join(', ')} stayed: they would have passed each other.`));
    return true;
  };
}

// Why the server would not take a state: then it is not shown as made. An edit that comes to this is a fault of ours.
function refusalOf(before: ProjectDocument, after: ProjectDocument): string | undefined {
  const checked = checkChangedDocument(before, after);
  const errors = checked.ok ? integrityErrorsOfChange(before, after) : checked.errors;
  if (errors.length === 0) return undefined;
  const told = describeErrors(errors.slice(0, 3));
  console.error(`An edit was not made: ${told}`);
  return `This can’t be done here (${told}). Nothing was changed.`;
}

/** Applies an edit of the core to the project; where it is refused, says why and changes nothing. */
export function rearrange(label: string, edit: (project: ProjectDocument) => ProjectDocument): AppThunk<boolean> {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (!document) return false;
    try {
      const done = dispatch(commitProject(label, edit(document)));
      if (done) dispatch(noticeSet(null));
      return done;
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      dispatch(projectTried(null));
      dispatch(noticeSet(error.message));
      return false;
    }
  };
}

/** Gives a clip a new timing, as one step of history, and ends what was being tried out. */
export function commitTiming(label: string, clipId: string, map: RetimeMap): AppThunk {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (document && openClip(getState(), clipId)) dispatch(commitProject(label, withTiming(document, clipId, map)));
    else dispatch(projectTried(null));
  };
}

/** Shows and plays a clip with another timing without keeping it. */
export function tryTiming(clipId: string, map: RetimeMap): AppThunk {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (document && openClip(getState(), clipId)) dispatch(projectTried(withTiming(document, clipId, map)));
  };
}

/** Applies an edit of the core to a clip; where it is refused, says why and changes nothing. */
export function retime(label: string, clipId: string, edit: (map: RetimeMap) => RetimeMap): AppThunk<boolean> {
  return (dispatch, getState) => {
    const clip = openClip(getState(), clipId);
    if (!clip) return false;
    try {
      dispatch(commitTiming(label, clipId, holdPins(clip.map, edit(clip.map))));
      dispatch(noticeSet(null));
      return true;
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      dispatch(projectTried(null));
      dispatch(noticeSet(error.message));
      return false;
    }
  };
}
