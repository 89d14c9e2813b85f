import { Upload as TusUpload } from 'tus-js-client';
import { UPLOAD_ENDPOINT } from './api';

/** Bytes in one request: small enough that an interruption costs little. */
const CHUNK = 8 * 2 ** 20;
/** Milliseconds until an interrupted upload is tried again, one after the other; more than ten minutes in all. */
const RETRIES = [200, 500, 1000, 2000, 3000, 5000, ...Array<number>(60).fill(10_000)];

/** A file on its way to the server. */
export interface RunningSend {
  /** The upload's id, once every byte is there. */
  done: Promise<string>;
  /** Stops it and takes away what was sent; `done` is refused. */
  cancel(): void;
}

/**
 * Sends a file so that an interruption, even a reload, is picked up where it was.
 *
 * @param onProgress hears of the bytes sent
 */
export function sendFile(file: File, onProgress: (sent: number) => void, onInterrupted: () => void): RunningSend {
  let stop: (reason: Error) => void = () => undefined;
  let stopped = false;
  let upload: TusUpload | undefined;
  const done = new Promise<string>((resolve, reject) => {
    stop = reject;
    const made: TusUpload = new TusUpload(file, {
      endpoint: UPLOAD_ENDPOINT,
      chunkSize: CHUNK,
      retryDelays: RETRIES,
      removeFingerprintOnSuccess: true,
      metadata: { filename: file.name },
      onProgress,
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        if (status >= 400 && status < 500 && status !== 409 && status !== 423) return false;
        // A full disk does not empty itself.
        if (status === 507) return false;
        onInterrupted();
        return true;
      },
      onError: (error) => reject(new Error(messageOf(error))),
      onSuccess: () => resolve(made.url!.split('/').at(-1)!),
    });
    upload = made;
    // The same file that was begun before, perhaps before a reload, goes on where it stopped.
    void made.findPreviousUploads().then((previous) => {
      if (stopped) return;
      if (previous[0]) made.resumeFromPreviousUpload(previous[0]);
      made.start();
    }, reject);
  });
  return {
    done,
    cancel: () => {
      stopped = true;
      void upload?.abort(true).catch(() => undefined);
      stop(new Error('cancelled'));
    },
  };
}

function messageOf(error: Error | { originalResponse?: { getBody(): string } | null }): string {
  const body = 'originalResponse' in error ? error.originalResponse?.getBody() : undefined;
  try {
    const problem = JSON.parse(body ?? '') as { detail?: string; title?: string };
    return problem.detail ?? problem.title ?? (error as Error).message;
  } catch {
    return 'The upload failed. Import the file again to resume.';
  }
}
