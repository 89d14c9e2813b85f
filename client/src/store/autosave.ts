import { problemTypes, type StoredProject } from '@hastig/contract';
import { mergeProjects } from '@hastig/core';
import { createAction, isAnyOf, nanoid } from '@reduxjs/toolkit';
import { api, Refused, Unreachable } from './api';
import type { Batch } from './browser-database';
import { difference } from './difference';
import { keepHistory } from './history-store';
import { emptyOutbox, leaveOutbox, noteBatch, putIn, takeOut } from './outbox';
import {
  changedElsewhere,
  edited,
  opened,
  projectClosed,
  redone,
  savingDone,
  savingFailed,
  savingStarted,
  undone,
  type UnsentChanges,
} from './project-slice';
import { messageSet } from './session-slice';
import { sendUnsent } from './send-unsent';
import { stepsTogether } from './steps-together';
import type { AppDispatch, AppListeners, RootState } from './store';

/** Milliseconds that edits are gathered before they are sent. */
const GATHER = 250;
/** Milliseconds until an unreachable server is tried again; the last one over and over. */
const RETRY = [500, 1000, 2000, 5000];
/** Somebody asks for what could not be saved to be saved now. */
export const saveAsked = createAction('project/saveAsked');

async function save(getState: () => RootState, dispatch: AppDispatch): Promise<'done' | 'again' | 'stop'> {
  const { id, revision, pending, batch: sent, save: state } = getState().project;
  if (!id || pending.length === 0 || state === 'conflict') return 'done';
  const batch: Batch = sent ?? { id: nanoid(), steps: stepsTogether(pending) };
  dispatch(savingStarted(batch));
  if (!sent) await noteBatch(batch);
  try {
    const answer = await api.patchProject(id, revision, pending.slice(0, batch.steps).flat(), batch.id);
    if (getState().project.id !== id) return 'stop';
    await takeOut(batch.steps, answer.revision);
    const { past, future, pending: all } = getState().project;
    // Before it is called saved, so that what is saved can also be undone after a reload.
    if (all.length === batch.steps) await keepHistory(id, { revision: answer.revision, past, future });
    if (getState().project.id !== id) return 'stop';
    dispatch(savingDone({ revision: answer.revision, steps: batch.steps }));
    // Looked at last of all: an edit may have come at any of the waits above.
    return getState().project.pending.length > 0 ? 'again' : 'done';
  } catch (error) {
    if (getState().project.id !== id) return 'stop';
    const fault = (error as Error).message;
    if (error instanceof Refused && error.problem.type === problemTypes.stale && error.problem.current) {
      const { current } = error.problem;
      const { document, pending: all, past, future } = getState().project;
      // The same came from elsewhere: a page that was left while it sent this, most likely.
      if (document && difference(current.document, document).length === 0) {
        await takeOut(all.length, current.revision);
        await keepHistory(id, { revision: current.revision, past, future });
        dispatch(savingDone({ revision: current.revision, steps: all.length }));
        return 'done';
      }
      const merged = mergedWith(getState().project, current);
      if (!merged) {
        dispatch(changedElsewhere(current));
        return 'stop';
      }
      // What goes together is put together without asking, and sent at once: whoever saves more slowly would never get to it else.
      dispatch(opened(merged.steps.length > 0 ? { project: current, unsent: merged } : { project: current }));
      dispatch(messageSet('Changes from another tab were merged with yours.'));
      return merged.steps.length > 0 ? 'again' : 'done';
    }
    if (error instanceof Refused && error.problem.status === 507) {
      dispatch(savingFailed({ save: 'full', fault }));
      return 'stop';
    }
    if (error instanceof Unreachable || (error instanceof Refused && error.problem.status >= 500)) {
      dispatch(savingFailed({ save: 'offline', fault }));
      return 'again';
    }
    dispatch(savingFailed({ save: 'refused', fault }));
    return 'stop';
  }
}

// What was changed here on top of what was changed elsewhere, as changes that nobody has sent; undefined where both changed the same.
function mergedWith({ base, document }: RootState['project'], current: StoredProject): UnsentChanges | undefined {
  const merged = base && document ? mergeProjects(base, document, current.document) : undefined;
  if (!merged || merged.conflicts.length > 0) return undefined;
  const patches = difference(current.document, merged.document);
  const inverse = difference(merged.document, current.document);
  const step = { label: 'merge changes', patches, inverse };
  const steps = patches.length > 0 ? [patches] : [];
  return { revision: current.revision, base: current.document, document: merged.document, steps, step };
}

/**
 * Sends every change to the server a moment after it is made, one request at a time, in order. Until the server has answered
 * for it, a change lies in this browser's outbox too, so that it outlives the page.
 */
export function startAutosave(listeners: AppListeners): void {
  keepOutbox(listeners);
  listeners.startListening({
    matcher: isAnyOf(edited, undone, redone, opened, saveAsked),
    effect: async (action, { getState, dispatch, delay, cancelActiveListeners, unsubscribe, subscribe }) => {
      cancelActiveListeners();
      if (!saveAsked.match(action)) await delay(GATHER);
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

function keepOutbox(listeners: AppListeners): void {
  listeners.startListening({
    matcher: isAnyOf(edited, undone, redone),
    effect: (_action, { getState }) => {
      const { id, revision, pending } = (getState() as RootState).project;
      const last = pending.at(-1);
      if (id && last) void putIn(id, revision, [last]);
    },
  });
  listeners.startListening({
    actionCreator: opened,
    effect: ({ payload: { project, unsent } }) => {
      void emptyOutbox();
      if (unsent) void putIn(project.id, unsent.revision, unsent.steps);
    },
  });
  listeners.startListening({
    actionCreator: projectClosed,
    // What was not sent yet when the project was left goes out behind its back.
    effect: async () => {
      await leaveOutbox();
      await sendUnsent();
    },
  });
}
