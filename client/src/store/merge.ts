import { mergeProjects } from '@hastig/core';
import { commitProject } from './edit';
import { opened } from './project-slice';
import { noticeSet, toldSet } from './session-slice';
import type { AppThunk } from './store';

/** Puts what was changed here on top of what was changed elsewhere, as one step that can be undone. */
export function mergeTheirs(): AppThunk {
  return (dispatch, getState) => {
    const { document, base, theirs } = getState().project;
    if (!document || !base || !theirs) return;
    const merged = mergeProjects(base, document, theirs.document);
    if (!merged) {
      dispatch(
        noticeSet('The two versions do not fit together. Keep yours as a project of its own, or show the other one.'),
      );
      return;
    }
    dispatch(opened({ project: theirs }));
    dispatch(commitProject('put both versions together', merged.document));
    const places = merged.conflicts.length;
    dispatch(
      toldSet(
        places === 0
          ? 'Both versions are together: nothing was changed in both.'
          : `Both versions are together. In ${places} ${places === 1 ? 'place' : 'places'} both had changed the same; there yours was taken.`,
      ),
    );
  };
}
