import { api, Refused } from './api';
import { applied, difference } from './difference';
import { recallHistory } from './history-store';
import { dropOutbox, abandonedOutboxes, outboxKept, type FoundOutbox } from './outbox';
import { opened, type UnsentChanges } from './project-slice';
import { noticeSet } from './session-slice';
import { forgetGone, lookForDerived } from './derive';
import type { AppThunk } from './store';

let latest = 0;

/** Loads a project and its history, unless another is wanted meanwhile. Throws Refused or Unreachable. */
export function openProject(id: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const mine = ++latest;
    const [found] = await abandonedOutboxes(id);
    const unsent = found && (await unsentChanges(found));
    const project = await api.getProject(id);
    const history = await recallHistory(id, found?.revision ?? project.revision);
    // What comes late must not take the place of what was asked for after it.
    if (mine !== latest) return;
    void dispatch(lookForDerived());
    void forgetGone();
    const past = history?.past ?? [];
    // What a page that was closed sent at the last moment may have arrived without anybody knowing.
    const arrived = unsent !== undefined && difference(project.document, unsent.document).length === 0;
    if (!unsent) dispatch(opened({ project, past, future: history?.future ?? [] }));
    else if (arrived) dispatch(opened({ project, past: [...past, unsent.step] }));
    else if (unsent.steps.length > 0) dispatch(opened({ project, past, unsent }));
    else dispatch(opened({ project, past: unsent.revision === project.revision ? [...past, unsent.step] : [] }));
    // This page has it in its own outbox by now.
    if (found) await outboxKept().then(() => dropOutbox(found.page));
  };
}

// What another page had changed: on top of what it started from. What has arrived is none of its steps any more, whether or
// not its answer had come back.
async function unsentChanges(found: FoundOutbox): Promise<UnsentChanges> {
  const { project, batch } = found;
  const { document: from } = await api.getRevision(project, found.revision);
  const patches = found.steps.flat();
  const document = applied(from, patches);
  const step = { label: 'unsaved changes', patches, inverse: difference(document, from) };
  const sent = batch ? found.steps.slice(0, batch.steps).flat() : [];
  // Refused as stale, it has not arrived; then it is put together with what stands there now.
  const answer =
    batch &&
    (await api.patchProject(project, found.revision, sent, batch.id).catch((error: Error) => {
      if (error instanceof Refused) return null;
      throw error;
    }));
  if (!answer || !batch) return { revision: found.revision, base: from, document, steps: found.steps, step };
  const base = applied(from, sent);
  return { revision: answer.revision, base, document, steps: found.steps.slice(batch.steps), step };
}

/** Gives up what the server does not take, and goes on from what it has. */
export function showSaved(): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { id } = getState().project;
    if (!id) return;
    try {
      dispatch(opened({ project: await api.getProject(id) }));
    } catch (error) {
      dispatch(noticeSet((error as Error).message));
    }
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
