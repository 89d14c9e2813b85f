import { problemTypes } from '@hastig/contract';
import { isAnyOf } from '@reduxjs/toolkit';
import { api, Refused, Unreachable } from './api';
import { keepHistory } from './history-store';
import { toJsonPatch } from './patches';
import { changedElsewhere, edited, redone, savingDone, savingFailed, savingStarted, undone } from './project-slice';
import type { AppDispatch, AppListeners, RootState } from './store';

/** Milliseconds that edits are gathered before they are sent. */
const GATHER = 250;
/** Milliseconds until an unreachable server is tried again; the last one over and over. */
const RETRY = [500, 1000, 2000, 5000];

async function save(getState: () => RootState, dispatch: AppDispatch): Promise<'done' | 'again' | 'stop'> {
  const { id, revision, pending } = getState().project;
  if (!id || pending.length === 0) return 'done';
  dispatch(savingStarted());
  try {
    const answer = await api.patchProject(id, revision, toJsonPatch(pending));
    if (getState().project.id !== id) return 'stop';
    const { past, future, pending: all } = getState().project;
    // Before it is called saved, so that what is saved can also be undone after a reload.
    if (all.length === pending.length) await keepHistory(id, { revision: answer.revision, past, future });
    dispatch(savingDone({ revision: answer.revision, sent: pending.length }));
    // Looked at last of all: an edit may have come at any of the waits above.
    return getState().project.pending.length > 0 ? 'again' : 'done';
  } catch (error) {
    if (getState().project.id !== id) return 'stop';
    if (error instanceof Unreachable) {
      dispatch(savingFailed({ save: 'offline', fault: error.message }));
      return 'again';
    }
    if (error instanceof Refused && error.problem.type === problemTypes.stale && error.problem.current) {
      dispatch(changedElsewhere(error.problem.current));
      return 'stop';
    }
    if (error instanceof Refused && error.problem.status >= 500) {
      dispatch(savingFailed({ save: 'offline', fault: error.message }));
      return 'again';
    }
    dispatch(savingFailed({ save: 'refused', fault: (error as Error).message }));
    return 'stop';
  }
}

/** Sends every change to the server a moment after it is made, one request at a time, in order. */
export function startAutosave(listeners: AppListeners): void {
  listeners.startListening({
    matcher: isAnyOf(edited, undone, redone),
    effect: async (_action, { getState, dispatch, delay, cancelActiveListeners, unsubscribe, subscribe }) => {
      cancelActiveListeners();
      await delay(GATHER);
      // Edits made while a request is under way stay pending and are sent after it.
      unsubscribe();
      try {
        let failures = 0;
        for (;;) {
          const outcome = await save(getState as () => RootState, dispatch as AppDispatch);
          if (outcome !== 'again') return;
          if ((getState() as RootState).project.save === 'offline') {
            await delay(RETRY[Math.min(failures++, RETRY.length - 1)]!);
          }
        }
      } finally {
        subscribe();
      }
    },
  });
}
