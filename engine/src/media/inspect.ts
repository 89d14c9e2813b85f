import type { MediaFacts } from '@hastig/contract';
import { inWorker, WorkerGaveUp } from '../worker/handle';

/** Milliseconds that looking into a file may take, whatever its size, and for each byte of it on top. */
const TIME = { base: 6000, perByte: 1 / 100_000 };

/**
 * Reads what a file on this device is, and whether this browser can decode it.
 *
 * @throws an Error whose message says why it cannot be used; after some seconds where it cannot be told
 */
export async function inspectFile(file: Blob): Promise<MediaFacts> {
  try {
    return await inWorker((engine) => engine.inspect({ file }), TIME.base + file.size * TIME.perByte);
  } catch (error) {
    if (!(error instanceof WorkerGaveUp)) throw error;
    throw new Error(
      'The file is damaged or malformed: this browser can’t finish reading it. If another program plays it, export it again from there.',
    );
  }
}
