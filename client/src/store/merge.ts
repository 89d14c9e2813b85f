import { keptText, LONGEST_NAME } from '@hastig/contract';
import { mergeProjects } from '@hastig/core';
import { api } from './api';
import { commitProject } from './edit';
import { emptyOutbox } from './outbox';
import { opened, projectClosed } from './project-slice';
import { noticeSet, messageSet } from './session-slice';
import type { AppThunk } from './store';

/** Puts what was changed here on top of what was changed elsewhere, as one step that can be undone. */
export function mergeTheirs(): AppThunk {
  return (dispatch, getState) => {
    const { document, base, theirs } = getState().project;
    if (!document || !base || !theirs) return;
    const merged = mergeProjects(base, document, theirs.document);
    if (!merged) {
      dispatch(noticeSet('The two versions can’t be merged. Save yours as a copy, or use the other one.'));
      return;
    }
    dispatch(opened({ project: theirs }));
    dispatch(commitProject('merge changes', merged.document));
    const places = merged.conflicts.length;
    dispatch(
      messageSet(
        places === 0
          ? 'Changes merged without conflicts.'
          : `Changes merged. ${places} ${places === 1 ? 'conflict was' : 'conflicts were'} settled with your version.`,
      ),
    );
  };
}

const MINE = ' (my version)';

/** Makes what was changed here a project of its own, and leaves the other version to whoever changed it. @returns its id */
export function keepMineApart(): AppThunk<Promise<string | undefined>> {
  return async (dispatch, getState) => {
    const { document } = getState().project;
    if (!document) return undefined;
    try {
      const name = `${keptText(document.name, LONGEST_NAME - MINE.length)}${MINE}`;
      const { id } = await api.createProject({ document: { ...document, name } });
      await emptyOutbox();
      dispatch(projectClosed());
      return id;
    } catch (error) {
      dispatch(noticeSet((error as Error).message));
      return undefined;
    }
  };
}
