import { api } from './api';
import { recallHistory } from './history-store';
import { opened } from './project-slice';
import { lookForCopies } from './scrub-copies';
import type { AppThunk } from './store';

/** Loads a project and its history. Throws Refused or Unreachable. */
export function openProject(id: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const project = await api.getProject(id);
    const history = await recallHistory(id, project.revision);
    void dispatch(lookForCopies());
    dispatch(opened({ project, ...(history ? { past: history.past, future: history.future } : {}) }));
  };
}

/** Looks whether another tab has changed the open project; takes its state over unless something is unsaved here. */
export function lookForChanges(): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { id, revision, save } = getState().project;
    if (!id || save !== 'saved') return;
    const project = await api.getProject(id).catch(() => undefined);
    const now = getState().project;
    if (project && now.id === id && now.revision === revision && now.save === 'saved' && project.revision > revision) {
      dispatch(opened({ project }));
    }
  };
}
