import { open } from 'node:fs/promises';
import type { MediaFacts } from '@hastig/contract';
import { readFacts, RefusedMedia } from '@hastig/probe';
import { FilePathSource } from 'mediabunny';

/** What a file is, or why it is none that can be used. */
export type ProbeOutcome = { facts: MediaFacts } | { refused: string };

/** Reads what a media file on this machine is. */
export async function probeFile(path: string, bytes: number): Promise<ProbeOutcome> {
  const file = await open(path);
  const read = async (from: number, to: number): Promise<Uint8Array> => {
    const { buffer, bytesRead } = await file.read(
      new Uint8Array(Math.max(0, to - from)),
      0,
      Math.max(0, to - from),
      from,
    );
    return buffer.subarray(0, bytesRead);
  };
  try {
    return { facts: await readFacts(new FilePathSource(path), bytes, read) };
  } catch (error) {
    if (!(error instanceof RefusedMedia)) throw error;
    return { refused: error.message };
  } finally {
    await file.close();
  }
}
