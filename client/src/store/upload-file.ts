import type { StoredMedia } from '@hastig/contract';
import { inspectFile } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { api } from './api';
import { sendFile, type RunningSend } from './send-file';
import type { AppThunk } from './store';
import { uploadAdded, uploadChanged, uploadRemoved } from './uploads-slice';

const running = new Map<string, RunningSend>();
const cancelled = new Set<string>();

/**
 * Brings a file to the server for the open project: looks whether this browser can show it, and uploads it so that an
 * interruption is picked up where it was. It has a row of its own meanwhile; a refused file says why there.
 *
 * @param stored what is done with it then, if its project is still open
 * @param replaces the source it shall stand behind, if it is no new one
 */
export function uploadFile(
  file: File,
  stored: (media: StoredMedia) => void,
  replaces?: string,
): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const projectId = getState().project.id;
    if (!projectId) return;
    const id = nanoid();
    const row = { id, projectId, name: file.name, state: 'checking', sent: 0, bytes: file.size, fault: null } as const;
    dispatch(uploadAdded({ ...row, ...(replaces && { replaces }) }));
    try {
      await inspectFile(file);
      if (cancelled.delete(id)) return;
      dispatch(uploadChanged({ id, state: 'sending' }));
      const sending = sendFile(
        file,
        (sent) => dispatch(uploadChanged({ id, sent, state: 'sending' })),
        () => dispatch(uploadChanged({ id, state: 'interrupted' })),
      );
      running.set(id, sending);
      const uploadId = await sending.done;
      dispatch(uploadChanged({ id, state: 'storing', sent: file.size }));
      const media = await api.finishUpload(uploadId);
      if (getState().project.id === projectId && !cancelled.has(id)) stored(media);
      dispatch(uploadRemoved(id));
    } catch (error) {
      if (cancelled.has(id)) dispatch(uploadRemoved(id));
      else dispatch(uploadChanged({ id, state: 'failed', fault: (error as Error).message }));
    } finally {
      cancelled.delete(id);
      running.delete(id);
    }
  };
}

/** Stops an upload and takes away what was sent, or dismisses one that failed. */
export function cancelUpload(id: string): AppThunk {
  return (dispatch, getState) => {
    const upload = getState().uploads.find((one) => one.id === id);
    if (upload && upload.state !== 'failed') {
      cancelled.add(id);
      running.get(id)?.cancel();
    }
    dispatch(uploadRemoved(id));
  };
}
