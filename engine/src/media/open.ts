import type { MediaFacts } from '@hastig/contract';
import { probeMedia, RefusedMedia, type ProbedMedia } from '@hastig/probe';
import { BlobSource, UrlSource } from 'mediabunny';
import { codecName } from './codec-name';
import type { FileLocation } from './location';

/** Most of a file kept in memory while reading it, in bytes. */
const READ_CACHE = 16 * 2 ** 20;

/** Opens and probes a source. Whoever opens it disposes of it. */
export function openMedia(location: FileLocation): Promise<ProbedMedia> {
  if ('file' in location) {
    const { file } = location;
    const read = async (from: number, to: number): Promise<Uint8Array> =>
      new Uint8Array(await file.slice(from, to).arrayBuffer());
    return probeMedia(new BlobSource(file, { maxCacheSize: READ_CACHE }), file.size, read);
  }
  return probeMedia(new UrlSource(location.url, { maxCacheSize: READ_CACHE }), location.bytes);
}

/**
 * Throws RefusedMedia unless this browser says that it can decode the picture. Sound that cannot be decoded is no reason
 * to refuse the picture.
 */
export async function checkDecodable(media: ProbedMedia): Promise<void> {
  const { codec, codecString } = media.facts.video;
  if (await media.video.canDecode()) return;
  throw new RefusedMedia(
    `This browser cannot decode ${pictureKind(codec, codecString)}. Convert the file to H.264 (8 bit, 4:2:0), VP9 or AV1 and bring that in.`,
  );
}

/** Why a file is refused whose first picture does not decode, though the browser decodes its codec. */
export function undecodable({ video: { codec, codecString } }: MediaFacts): RefusedMedia {
  return new RefusedMedia(
    `The first picture of the file cannot be decoded: the ${codecName(codec)} in it (${codecString}) is damaged. Copy the file again from where it was recorded; if other programs play it, have one of them write it anew.`,
  );
}

/** Profiles of H.264 by `profile_idc` (ITU-T H.264, A.2) that cameras write and browsers often cannot decode. */
const avcProfiles: Record<string, string> = {
  '6e': '10 bit',
  '7a': '4:2:2',
  f4: '4:4:4',
  '2c': '4:4:4, every picture on its own',
};

/** What a picture is coded as, as exactly as it matters to whoever has to convert it. */
function pictureKind(codec: string, codecString: string): string {
  const profile = /^avc[13]\.([0-9a-f]{2})/i.exec(codecString)?.[1]?.toLowerCase();
  if (!profile) return codecName(codec);
  const kind = avcProfiles[profile];
  return kind ? `H.264 of this kind (${kind})` : `this file’s H.264 (${codecString}): it is damaged, or of a rare kind`;
}
