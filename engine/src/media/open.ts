import type { MediaFacts } from '@hastig/contract';
import { probeMedia, probeStills, RefusedMedia, type ProbedMedia, type ProbedStills } from '@hastig/probe';
import { BlobSource, UrlSource } from 'mediabunny';
import { codecName } from './codec-name';
import { canHear } from './hearing';
import type { FileLocation } from './location';
import { readerOf, sizeOf } from './read-bytes';

/** Most of a file kept in memory while reading it, in bytes. */
const READ_CACHE = 16 * 2 ** 20;

/** Opens and probes a source with picture or sound in time. Whoever opens it disposes of it. */
export async function openMedia(location: FileLocation): Promise<ProbedMedia> {
  const cache = { maxCacheSize: READ_CACHE };
  if ('file' in location) {
    const { file } = location;
    return probeMedia(new BlobSource(file, cache), file.size, readerOf(location));
  }
  const requestInit: RequestInit = location.once ? { cache: 'no-store' } : {};
  try {
    return await probeMedia(new UrlSource(location.url, { ...cache, requestInit }), location.bytes);
  } catch (error) {
    throw (await awayInstead(location.url)) ?? error;
  }
}

// What cannot be fetched reads like a damaged file; then it is said what it is. Undefined for a file that is there.
async function awayInstead(url: string): Promise<Error | undefined> {
  const answer = await fetch(url, { headers: { Range: 'bytes=0-0' }, cache: 'no-store' }).catch(() => undefined);
  if (answer?.ok) return undefined;
  if (answer?.status === 404)
    return new RefusedMedia('The file is missing on the server. Open Footage to find it again.');
  return new Error('The file can’t be read: the server isn’t answering. Try again in a moment.');
}

/** Opens and probes a still or numbered stills; undefined where the file is neither. */
export function openStills(location: FileLocation): Promise<ProbedStills | undefined> {
  if ('url' in location && !location.stills) return Promise.resolve(undefined);
  return probeStills(readerOf(location), sizeOf(location), 'file' in location);
}

/**
 * Throws RefusedMedia unless this browser says that it can decode what the file is for: its picture, or where there is none
 * its sound. Sound that cannot be decoded is no reason to refuse a picture.
 */
export async function checkDecodable({ picture, sounds, facts }: ProbedMedia): Promise<void> {
  if (picture) {
    const { codec, codecString } = picture.facts;
    if (await picture.track.canDecode()) return;
    throw new RefusedMedia(
      `This browser can’t decode ${pictureKind(codec, codecString)}. Convert the file to H.264 (8 bit, 4:2:0), VP9 or AV1 and import that.`,
    );
  }
  if (sounds[0] && (await canHear(sounds[0]))) return;
  throw new RefusedMedia(
    `This browser can’t decode ${codecName(facts.audio?.codec ?? 'unknown')} sound. Convert the file to WAV, FLAC, MP3 or AAC and import that.`,
  );
}

/** Why a file is refused whose first picture does not decode, though the browser decodes its codec. */
export function undecodable({ video, still, audio }: MediaFacts): RefusedMedia {
  if (still) return new RefusedMedia('The picture is damaged and can’t be decoded. Copy it again from its origin.');
  if (!video) {
    return new RefusedMedia(
      `The file’s sound can’t be decoded: its ${codecName(audio?.codec ?? 'unknown')} is damaged. Copy the file again from its origin.`,
    );
  }
  const { codec, codecString } = video;
  return new RefusedMedia(
    `The file’s first picture can’t be decoded: its ${codecName(codec)} (${codecString}) is damaged. Copy the file again from its origin, or export it again from a program that plays it.`,
  );
}

/** Profiles of H.264 by `profile_idc` (ITU-T H.264, A.2) that cameras write and browsers often cannot decode. */
const avcProfiles: Record<string, string> = {
  '6e': '10 bit',
  '7a': '4:2:2',
  f4: '4:4:4',
  '2c': '4:4:4, all intra',
};

/** What a picture is coded as, as exactly as it matters to whoever has to convert it. */
function pictureKind(codec: string, codecString: string): string {
  const profile = /^avc[13]\.([0-9a-f]{2})/i.exec(codecString)?.[1]?.toLowerCase();
  if (!profile) return codecName(codec);
  const kind = avcProfiles[profile];
  return kind ? `H.264 of this kind (${kind})` : `this file’s H.264 (${codecString}): it is damaged or unusual`;
}
