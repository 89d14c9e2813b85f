import { addSource } from '@hastig/core';
import { inWorker } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { Upload as TusUpload } from 'tus-js-client';
import { api, UPLOAD_ENDPOINT } from './api';
import { editProject } from './edit';
import type { AppThunk } from './store';
import { uploadAdded, uploadChanged, uploadRemoved } from './uploads-slice';

/** Bytes in one request: small enough that an interruption costs little. */
const CHUNK = 8 * 2 ** 20;
/** Milliseconds until an interrupted upload is tried again, one after the other; more than ten minutes in all. */
const RETRIES = [200, 500, 1000, 2000, 3000, 5000, ...Array<number>(60).fill(10_000)];

const running = new Map<string, TusUpload>();
const cancelled = new Set<string>();

/**
 * Brings files into the open project: looks whether this browser can show them, uploads them so that an interruption
 * is picked up where it was, and adds each as a source with a clip of its own. A refused file says why in its row.
 */
export function importFiles(files: readonly File[]): AppThunk<Promise<void>> {
  return async (dispatch) => {
    // One after the other: two uploads at once are not faster, and the first is usable sooner.
    for (const file of files) await dispatch(importFile(file));
  };
}

function importFile(file: File): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const projectId = getState().project.id;
    if (!projectId) return;
    const id = nanoid();
    dispatch(
      uploadAdded({ id, projectId, name: file.name, state: 'checking', sent: 0, bytes: file.size, fault: null }),
    );
    try {
      await inWorker((engine) => engine.inspect({ file }));
      if (cancelled.delete(id)) return;
      dispatch(uploadChanged({ id, state: 'sending' }));
      const uploadId = await send(
        file,
        id,
        (sent) => dispatch(uploadChanged({ id, sent, state: 'sending' })),
        () => dispatch(uploadChanged({ id, state: 'interrupted' })),
      );
      dispatch(uploadChanged({ id, state: 'storing', sent: file.size }));
      const media = await api.finishUpload(uploadId);
      if (getState().project.id === projectId) {
        const source = { id: `source-${nanoid(10)}`, name: file.name, sha256: media.sha256, facts: media.facts };
        const clipId = `clip-${nanoid(10)}`;
        dispatch(
          editProject(`bring in ${file.name}`, (draft) => {
            Object.assign(draft, addSource(getState().project.document!, source, clipId));
          }),
        );
      }
      dispatch(uploadRemoved(id));
    } catch (error) {
      if (cancelled.delete(id)) dispatch(uploadRemoved(id));
      else dispatch(uploadChanged({ id, state: 'failed', fault: (error as Error).message }));
    } finally {
      running.delete(id);
    }
  };
}

function send(file: File, id: string, onProgress: (sent: number) => void, onInterrupted: () => void): Promise<string> {
  return new Promise((resolve, reject) => {
    const upload = new TusUpload(file, {
      endpoint: UPLOAD_ENDPOINT,
      chunkSize: CHUNK,
      retryDelays: RETRIES,
      removeFingerprintOnSuccess: true,
      metadata: { filename: file.name },
      onProgress,
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        if (status >= 400 && status < 500 && status !== 409 && status !== 423) return false;
        onInterrupted();
        return true;
      },
      onError: (error) => reject(new Error(messageOf(error))),
      onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
    });
    running.set(id, upload);
    // The same file that was begun before, perhaps before a reload, goes on where it stopped.
    void upload.findPreviousUploads().then((previous) => {
      if (cancelled.has(id)) return reject(new Error('cancelled'));
      if (previous[0]) upload.resumeFromPreviousUpload(previous[0]);
      upload.start();
    }, reject);
    stoppers.set(id, () => reject(new Error('cancelled')));
  });
}

const stoppers = new Map<string, () => void>();

function messageOf(error: Error | { originalResponse?: { getBody(): string } | null }): string {
  const body = 'originalResponse' in error ? error.originalResponse?.getBody() : undefined;
  try {
    const problem = JSON.parse(body ?? '') as { detail?: string; title?: string };
    return problem.detail ?? problem.title ?? (error as Error).message;
  } catch {
    return 'The upload failed. Drop the file again: it goes on where it stopped.';
  }
}

/** Stops an upload and takes away what was sent, or dismisses one that failed. */
export function cancelUpload(id: string): AppThunk {
  return (dispatch, getState) => {
    const upload = getState().uploads.find((one) => one.id === id);
    if (upload && upload.state !== 'failed') {
      cancelled.add(id);
      void running
        .get(id)
        ?.abort(true)
        .catch(() => undefined);
      stoppers.get(id)?.();
    }
    stoppers.delete(id);
    dispatch(uploadRemoved(id));
  };
}
