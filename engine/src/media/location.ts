import type { Colours, Counting, DerivedPiece, Fields, Source } from '@hastig/contract';
import { countingOf, fieldsOf } from '@hastig/core';

/**
 * Where a file's bytes are: an address that answers range requests, or a file on this device. `stills` says whether what is at
 * the address is a still or numbered ones, `once` that all of it is read once, so that nobody need keep it.
 */
export type FileLocation = { url: string; bytes: number; stills?: boolean; once?: boolean } | { file: Blob };

/** A proxy: its pieces, each under this address, a slash, and its number. */
export interface ProxyLocation {
  url: string;
  pieces: readonly DerivedPiece[];
}

/**
 * Where a source's bytes are, how its fields are taken (as they are stored unless told), how irregular frames are counted (as
 * suggested unless told), what its colours are (what the file says, or what is assumed where it says nothing, unless told), how many frames of the file are counted (those that are shown unless told; an older version counted
 * what an edit list cuts off too), which of its tracks of sound is heard (the first unless told), and its proxy.
 */
export type MediaLocation = FileLocation & {
  fields?: Fields;
  counting?: Counting;
  colours?: Colours;
  frameCount?: number;
  soundTrack?: number;
  proxy?: ProxyLocation;
};

/** Whether two locations are the same file's. */
export function sameFile(a: FileLocation, b: FileLocation): boolean {
  return 'url' in a && 'url' in b ? a.url === b.url : 'file' in a && 'file' in b && a.file === b.file;
}

/** Whether frames at irregular times are counted alike. */
export function sameCounting({ counting: a }: MediaLocation, { counting: b }: MediaLocation): boolean {
  return a?.by === b?.by && a?.rate?.num === b?.rate?.num && a?.rate?.den === b?.rate?.den;
}

/** Whether colours are taken alike. */
export function sameColours({ colours: a }: MediaLocation, { colours: b }: MediaLocation): boolean {
  return a?.space === b?.space && a?.fullRange === b?.fullRange;
}

/** Whether two locations give the same pictures: the same file, taken and counted alike. A proxy makes no difference. */
export function samePictures(a: MediaLocation | undefined, b: MediaLocation | undefined): boolean {
  if (!a || !b || !sameFile(a, b)) return false;
  return (
    a.fields?.use === b.fields?.use && a.fields?.first === b.fields?.first && sameCounting(a, b) && sameColours(a, b)
  );
}

/** Where a source's file is, and how its frames are taken and counted. */
export function locationOf(source: Source, url: string): MediaLocation {
  const { facts, colours, soundTrack = 0 } = source;
  const taken = { fields: fieldsOf(source), counting: countingOf(source), soundTrack, ...(colours && { colours }) };
  const { bytes, video, still } = facts;
  return { url, bytes, stills: still !== undefined, ...(video && { frameCount: video.frames }), ...taken };
}
