import type { CopyPiece, Fields } from '@hastig/contract';
import { probeMedia, RefusedMedia, type ProbedMedia } from '@hastig/probe';
import { BlobSource, UrlSource } from 'mediabunny';

/** Where a file's bytes are: an address that answers range requests, or a file on this device. */
export type FileLocation = { url: string; bytes: number } | { file: Blob };

/** A scrubbing copy: its pieces, each under this address, a slash, and its number. */
export interface CopyLocation {
  url: string;
  pieces: readonly CopyPiece[];
}

/** Where a source's bytes are, how its fields are taken (as they are stored unless told), and its scrubbing copy. */
export type MediaLocation = FileLocation & { fields?: Fields; copy?: CopyLocation };

/** Whether two locations are the same file's. */
export function sameFile(a: FileLocation, b: FileLocation): boolean {
  return 'url' in a && 'url' in b ? a.url === b.url : 'file' in a && 'file' in b && a.file === b.file;
}

/** Whether two locations give the same pictures: the same file, its fields taken alike. A copy makes no difference. */
export function samePictures(a: MediaLocation | undefined, b: MediaLocation | undefined): boolean {
  if (!a || !b || !sameFile(a, b)) return false;
  return a.fields?.use === b.fields?.use && a.fields?.first === b.fields?.first;
}

/** Most of a file kept in memory while reading it, in bytes. */
const READ_CACHE = 16 * 2 ** 20;

/** Opens and probes a source. Whoever opens it disposes of it. */
export function openMedia(location: FileLocation): Promise<ProbedMedia> {
  if ('file' in location)
    return probeMedia(new BlobSource(location.file, { maxCacheSize: READ_CACHE }), location.file.size);
  return probeMedia(new UrlSource(location.url, { maxCacheSize: READ_CACHE }), location.bytes);
}

const codecNames: Record<string, string> = { avc: 'H.264', hevc: 'HEVC (H.265)', vp8: 'VP8', vp9: 'VP9', av1: 'AV1' };

/** A codec's everyday name. */
export function codecName(codec: string): string {
  return codecNames[codec] ?? codec.toUpperCase();
}

/**
 * Throws RefusedMedia unless this browser says that it can decode the picture. Sound that cannot be decoded is no reason
 * to refuse the picture.
 */
export async function checkDecodable(media: ProbedMedia): Promise<void> {
  const { codec } = media.facts.video;
  if (!(await media.video.canDecode())) {
    throw new RefusedMedia(
      `This browser cannot decode ${codecName(codec)}. Convert the file to H.264, VP9 or AV1 and bring that in.`,
    );
  }
}
