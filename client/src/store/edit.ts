import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import { EditRefused, holdPins, withTiming } from '@hastig/core';
import { adopt } from './adopt';
import { produceWithPatches, type Draft } from 'immer';
import { edited } from './project-slice';
import { noticeSet, projectTried, trialSet } from './session-slice';
import { openClip } from './selectors';
import type { AppThunk } from './store';

/** Changes the document, as one step of history. A change that changes nothing leaves no trace. */
export function editProject(label: string, change: (draft: Draft<ProjectDocument>) => void): AppThunk {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (!document) return;
    const [next, patches, inverse] = produceWithPatches(document, change);
    if (patches.length > 0) dispatch(edited({ document: next, step: { label, patches, inverse } }));
  };
}

/** Makes the document another one, as one step of history that tells only what differs; ends what was being tried out. */
export function commitProject(label: string, next: ProjectDocument): AppThunk {
  return (dispatch) => {
    dispatch(editProject(label, (draft) => adopt(draft, next)));
    dispatch(projectTried(null));
  };
}

/** Applies an edit of the core to the project; where it is refused, says why and changes nothing. */
export function rearrange(label: string, edit: (project: ProjectDocument) => ProjectDocument): AppThunk<boolean> {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (!document) return false;
    try {
      dispatch(commitProject(label, edit(document)));
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

/** Gives a clip a new timing, as one step of history, and ends what was being tried out. */
export function commitTiming(label: string, clipId: string, map: RetimeMap): AppThunk {
  return (dispatch, getState) => {
    const { document } = getState().project;
    if (document && openClip(getState(), clipId)) dispatch(commitProject(label, withTiming(document, clipId, map)));
    dispatch(trialSet(null));
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
      dispatch(trialSet(null));
      dispatch(noticeSet(error.message));
      return false;
    }
  };
}
