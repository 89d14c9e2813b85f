import type { JobChange, RenderOrder, ServerJob } from '@hastig/contract';
import { addSource } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { api, jobFileAddress } from './api';
import { saveAsked } from './autosave';
import { rearrange } from './edit';
import { messageSet, noticeSet } from './session-slice';
import type { AppThunk, RootState } from './store';
import { lookAtJobs } from './watch-jobs';

/** A file that the server is to render: what of the open project, and by what form. */
type WantedOrder = Omit<RenderOrder, 'projectId' | 'revision'>;

/** Milliseconds that what was edited last has to reach the server. */
const SAVED_WITHIN = 15_000;

/** Hands files to the server, as the project is now. */
export function orderRenders(orders: readonly WantedOrder[]): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    dispatch(saveAsked());
    const project = await saved(getState);
    if (!project) {
      dispatch(noticeSet('The last changes haven’t reached the server yet. Render again once the project is saved.'));
      return;
    }
    try {
      for (const order of orders) await api.addJob({ render: { ...order, ...project } });
      dispatch(messageSet(`${orders.length === 1 ? orders[0]!.file : `${orders.length} files`} sent to the server.`));
    } catch (error) {
      dispatch(noticeSet(`The server didn’t take it: ${(error as Error).message}`));
    }
    await dispatch(lookAtJobs());
  };
}

/** Waits until everything is on the server; undefined where it does not get there. */
async function saved(getState: () => RootState): Promise<Pick<RenderOrder, 'projectId' | 'revision'> | undefined> {
  const until = Date.now() + SAVED_WITHIN;
  for (;;) {
    const { id, revision, save, pending } = getState().project;
    if (id && save === 'saved' && pending.length === 0) return { projectId: id, revision };
    if (Date.now() > until || save === 'conflict' || save === 'refused') return undefined;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Has a job wait, go on, end, be done again, or come sooner or later. */
export function changeJob(id: string, change: JobChange): AppThunk<Promise<void>> {
  return (dispatch) => dispatch(about(() => api.changeJob(id, change)));
}

/** Takes a job out of the list, with its file. */
export function removeJob(id: string): AppThunk<Promise<void>> {
  return (dispatch) => dispatch(about(() => api.removeJob(id)));
}

function about(task: () => Promise<unknown>): AppThunk<Promise<void>> {
  return async (dispatch) => {
    try {
      await task();
    } catch (error) {
      dispatch(noticeSet((error as Error).message));
    }
    await dispatch(lookAtJobs());
  };
}

/** Opens what came of a job as a source of the open project. */
export function openAsSource({ id, file }: Pick<ServerJob, 'id' | 'file'>): AppThunk<Promise<void>> {
  return async (dispatch) => {
    try {
      const { sha256, facts } = await api.jobMedia(id);
      const source = { id: `source-${nanoid(10)}`, name: file, sha256, facts };
      const clipId = `clip-${nanoid(10)}`;
      dispatch(rearrange(`import ${file}`, (project) => addSource(project, source, clipId)));
      dispatch(messageSet(`${file} is in Footage.`));
    } catch (error) {
      dispatch(noticeSet(`${file}: ${(error as Error).message}`));
    }
  };
}

/** Whether this device hands files to other programs. */
export const canShare = (): boolean =>
  typeof navigator.share === 'function' && navigator.canShare?.({ files: [new File([], 'film.mp4', { type: 'video/mp4' })] }); // prettier-ignore

/** Hands what came of a job to another program on this device (Web Share API, W3C). */
export function shareJob({ id, file }: Pick<ServerJob, 'id' | 'file'>): AppThunk<Promise<void>> {
  return async (dispatch) => {
    try {
      const answer = await fetch(jobFileAddress(id));
      if (!answer.ok) throw new Error('The file can’t be fetched.');
      const blob = await answer.blob();
      await navigator.share({ files: [new File([blob], file, { type: blob.type })] });
    } catch (error) {
      if ((error as Error).name !== 'AbortError') dispatch(noticeSet(`${file}: ${(error as Error).message}`));
    }
  };
}
