import type { StoredMedia } from '@hastig/contract';
import { api } from './api';
import { isOpen } from './jobs-slice';
import type { AppThunk } from './store';
import { uploadChanged } from './uploads-slice';
import { lookAtJobs } from './watch-jobs';

/** Milliseconds between two looks at how far it is. */
const EVERY = 500;

/**
 * Has the server convert what was uploaded, and waits for it. With the tab closed it goes on, and is found among the server's jobs.
 *
 * @param id of the row that tells how far it is
 * @throws Error with the reason where it fails, or was cancelled
 */
export function convertUploaded(
  id: string,
  file: string,
  uploadId: string,
): AppThunk<Promise<StoredMedia | undefined>> {
  return async (dispatch, getState) => {
    const projectId = getState().project.id;
    const { id: jobId } = await api.addJob({ convert: { uploadId, file, ...(projectId && { projectId }) } });
    dispatch(uploadChanged({ id, jobId, state: 'converting', sent: 0 }));
    // The list is told from now on, for there is something to be done in it.
    await dispatch(lookAtJobs());
    let seen = false;
    for (;;) {
      if (!getState().uploads.some((one) => one.id === id)) return undefined;
      const job = getState().jobs.list?.find((one) => one.id === jobId);
      if (!job && seen) throw new Error('The conversion was deleted.');
      // A list that could not be had is asked for again.
      if (!job) await dispatch(lookAtJobs());
      seen ||= job !== undefined;
      if (job?.state === 'done') return api.jobMedia(jobId);
      // It stays among the server's jobs, with its log, and can be started again there.
      if (job && !isOpen(job)) throw new Error(job.message ?? 'The conversion was cancelled.');
      const { bytes } = getState().uploads.find((one) => one.id === id)!;
      if (job) dispatch(uploadChanged({ id, sent: (bytes * job.done) / job.total }));
      await new Promise((resolve) => setTimeout(resolve, EVERY));
    }
  };
}

/** Calls a conversion off and takes all of it away. */
export async function leaveConversion(jobId: string): Promise<void> {
  await api.changeJob(jobId, { state: 'cancelled' }).catch(() => undefined);
  await api.removeJob(jobId).catch(() => undefined);
}
