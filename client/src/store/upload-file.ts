import { problemTypes, type StoredMedia } from '@hastig/contract';
import { inspectFile } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { api, type Refused } from './api';
import { convertUploaded, leaveConversion } from './convert-file';
import { sendFile, type RunningSend } from './send-file';
import type { AppThunk } from './store';
import { uploadAdded, uploadChanged, uploadRemoved } from './uploads-slice';

type Stored = (media: StoredMedia) => void;

const running = new Map<string, RunningSend>();
const cancelled = new Set<string>();
/** What was refused, and what was to be done with it, in case it is converted. */
const refused = new Map<string, { file: File; stored: Stored }>();

/**
 * Brings a file to the server for the open project: looks whether this browser can show it, and uploads it so that an
 * interruption is picked up where it was. It has a row of its own meanwhile; a refused file says why there, and is offered to be converted.
 *
 * @param stored what is done with it then, if its project is still open
 * @param replaces the source it shall stand behind, if it is no new one
 */
export function uploadFile(file: File, stored: Stored, replaces?: string): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const projectId = getState().project.id;
    if (!projectId) return;
    const id = nanoid();
    const row = { id, projectId, name: file.name, state: 'checking', sent: 0, bytes: file.size, fault: null } as const;
    dispatch(uploadAdded({ ...row, ...(replaces && { replaces }) }));
    await dispatch(
      bring(id, file, stored, async (send) => {
        await inspectFile(file);
        if (cancelled.has(id)) return undefined;
        return api.finishUpload(await send());
      }),
    );
  };
}

/** Has a file converted that was refused, and brings what comes of it into the open project. */
export function convertFile(id: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const known = refused.get(id);
    if (!known) return;
    refused.delete(id);
    dispatch(uploadChanged({ id, fault: null, convertible: false }));
    const { file, stored } = known;
    const task = async (send: () => Promise<string>) => dispatch(convertUploaded(id, file.name, await send()));
    await dispatch(bring(id, file, stored, task, true));
  };
}

/** Does what brings a file in, and tells in its row how it goes. @param task is given what uploads it and gives the upload's id */
function bring(
  id: string,
  file: File,
  stored: Stored,
  task: (send: () => Promise<string>) => Promise<StoredMedia | undefined>,
  wasConverted = false,
): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const projectId = getState().project.id;
    const send = async (): Promise<string> => {
      dispatch(uploadChanged({ id, state: 'sending' }));
      const sending = sendFile(
        file,
        (sent) => dispatch(uploadChanged({ id, sent, state: 'sending' })),
        () => dispatch(uploadChanged({ id, state: 'interrupted' })),
      );
      running.set(id, sending);
      const uploadId = await sending.done;
      dispatch(uploadChanged({ id, state: 'storing', sent: file.size }));
      return uploadId;
    };
    try {
      const media = await task(send);
      if (media && getState().project.id === projectId && !cancelled.has(id)) stored(media);
      dispatch(uploadRemoved(id));
    } catch (error) {
      if (cancelled.has(id)) dispatch(uploadRemoved(id));
      else {
        // What could not be converted is not offered again.
        const convertible = !wasConverted && mayBeConverted(file, error as Error);
        if (convertible) refused.set(id, { file, stored });
        dispatch(uploadChanged({ id, state: 'failed', fault: (error as Error).message, convertible }));
      }
    } finally {
      cancelled.delete(id);
      running.delete(id);
    }
  };
}

/** Whether another program may decode a file that this browser, or the server, refuses. A still that is damaged stays so. */
function mayBeConverted({ type, name }: File, error: Error): boolean {
  const { problem } = error as Partial<Refused>;
  if (error.name !== 'RefusedMedia' && problem?.type !== problemTypes.refusedMedia) return false;
  const still = type.startsWith('image/') && !/\.gif$/i.test(name);
  // Where what converts is not installed, the reason says how it is.
  return !still && problem?.status !== 501;
}

/** Stops an upload and takes away what was sent, or dismisses one that failed. */
export function cancelUpload(id: string): AppThunk {
  return (dispatch, getState) => {
    const upload = getState().uploads.find((one) => one.id === id);
    refused.delete(id);
    if (upload && upload.state !== 'failed') {
      cancelled.add(id);
      running.get(id)?.cancel();
      if (upload.jobId) void leaveConversion(upload.jobId);
    }
    dispatch(uploadRemoved(id));
  };
}
