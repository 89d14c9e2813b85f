import { probeMedia, RefusedMedia, type ProbedMedia } from '@hastig/probe';
import { BlobSource, UrlSource } from 'mediabunny';

/** Where a source's bytes are: an address that answers range requests, or a file on this device. */
export type MediaLocation = { url: string; bytes: number } | { file: Blob };

/** Most of a file kept in memory while reading it, in bytes. */
const READ_CACHE = 16 * 2 ** 20;

/** Opens and probes a source. Whoever opens it disposes of it. */
export function openMedia(location: MediaLocation): Promise<ProbedMedia> {
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
