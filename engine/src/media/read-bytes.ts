import type { ReadBytes } from '@hastig/probe';
import type { FileLocation } from './location';

/** A part of a file as a file of its own: `from` included, `to` not. */
export async function partOf(location: FileLocation, from: number, to: number): Promise<Blob> {
  if ('file' in location) return location.file.slice(from, to);
  const response = await fetch(location.url, { headers: { Range: `bytes=${from}-${to - 1}` } });
  if (!response.ok) throw new Error(`The file can’t be read: the server answered ${response.status}.`);
  const content = await response.blob();
  // A server that knows no ranges gives all of it.
  return response.status === 206 ? content : content.slice(from, to);
}

/** Reads bytes of a file. */
export function readerOf(location: FileLocation): ReadBytes {
  return async (from, to) => {
    const [start, end] = [Math.max(0, from), Math.min(to, sizeOf(location))];
    return end > start ? new Uint8Array(await (await partOf(location, start, end)).arrayBuffer()) : new Uint8Array();
  };
}

/** Bytes of a file. */
export function sizeOf(location: FileLocation): number {
  return 'file' in location ? location.file.size : location.bytes;
}
