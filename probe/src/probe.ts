import {
  keptText,
  MOST_POSITIONS,
  MOST_SOUND_TRACKS,
  type MediaFacts,
  type Scan,
  type SoundFacts,
} from '@hastig/contract';
import {
  ALL_FORMATS,
  EncodedPacketSink,
  Input,
  type InputAudioTrack,
  type InputTrack,
  type InputVideoTrack,
  type Source,
} from 'mediabunny';
import { avcScan } from './avc/scan';
import { boundLooks } from './bound-reads';
import { indexFrames, lengthOf, longestGroup, type FrameIndex } from './frame-index';
import { meanRate, measureRate, rateFits } from './frame-rate';
import { checkTables, type ReadBytes } from './isobmff/tables';
import { bitsOf } from './picture-depth';
import { RefusedMedia } from './refused';

/** A file opened for reading, with what is known of it. Call `dispose` when done. */
export interface ProbedMedia {
  input: Input;
  /** Null for sound alone. */
  picture: ProbedPicture | null;
  /** The tracks of sound, the one that is played unless told otherwise first. */
  sounds: readonly InputAudioTrack[];
  facts: MediaFacts;
  dispose(): void;
}

/** The picture of a media file. */
export interface ProbedPicture {
  track: InputVideoTrack;
  index: FrameIndex;
  /** Of all frames in the file, those included that an edit list cuts off. */
  all: FrameIndex;
  facts: NonNullable<MediaFacts['video']>;
}

/** Most frames of one source: 2 hours at 240 frames a second and some. */
const MOST_FRAMES = 2_000_000;

/**
 * Reads what a media file is: container, codecs, size, exact rate, frame count, sound; from its packets, not
 * from a length times a rate. Decodes nothing.
 *
 * @param source where the bytes come from (a file, an address); read in parts, never whole
 * @param bytes its size
 * @param read where the file has not been looked at before: its bytes, to compare its tables with its size first
 * @throws RefusedMedia for what is neither video nor sound: empty, not a media file, cut short
 */
export async function probeMedia(source: Source, bytes: number, read?: ReadBytes): Promise<ProbedMedia> {
  if (bytes === 0) throw new RefusedMedia('The file is empty.');
  if (read) await checkTables(read, bytes, MOST_FRAMES);
  const unbound = boundLooks(source, bytes);
  const input = new Input({ source, formats: ALL_FORMATS });
  try {
    if (!(await input.canRead())) {
      throw new RefusedMedia(
        'Hastig can’t read this type of file. Use video in MP4, MOV, MKV or WebM, sound in WAV, FLAC, MP3, M4A, AAC or Ogg, or stills in PNG, JPEG, WebP or AVIF.',
      );
    }
    const video = await input.getPrimaryVideoTrack();
    const sounds = await soundTracks(input);
    if (!video && sounds.length === 0) throw new RefusedMedia('The file has neither picture nor sound.');
    const picture = video && (await probePicture(video, bytes));
    await Promise.all([...(video ? [video] : []), ...sounds].map(checkComplete));
    const facts = await factsOf(input, picture?.facts ?? null, sounds, bytes);
    checkFacts(facts);
    return { input, picture, sounds, facts, dispose: () => input.dispose() };
  } catch (error) {
    input.dispose();
    if (error instanceof RefusedMedia) throw error;
    // What the reading library says of it is for its makers; in the log of whoever looks into it.
    throw new RefusedMedia(
      'The file is damaged: its header can’t be read. Copy it again from its origin, or export it again from a program that plays it.',
      { cause: error },
    );
  } finally {
    unbound();
  }
}

async function probePicture(track: InputVideoTrack, bytes: number): Promise<ProbedPicture> {
  // A frame has one byte at the least.
  const { shown: index, all } = await indexFrames(track, Math.min(MOST_FRAMES, bytes));
  if (index.timestamps.length === 0) throw new RefusedMedia('The file has a picture track, but no frames.');
  return { track, index, all, facts: await pictureFacts(track, index) };
}

/** Pixels of a picture's longer edge at most. */
const LONGEST_EDGE = 65_536;
/** Frames a second that a picture has at most; the fastest cameras are far below. */
const FASTEST = 1_000_000;

// What a damaged file says of itself may be read without a fault and still be none of a picture.
function checkFacts({ video, audio, sounds }: MediaFacts): void {
  if (video) checkPicture(video);
  for (const { channels, sampleRate, seconds } of sounds ?? (audio ? [audio] : [])) {
    if (!(channels >= 1 && channels <= 64)) refuse(`its sound claims ${channels} channels`);
    if (!(sampleRate >= 1 && sampleRate <= 1e6)) refuse(`its sound claims ${sampleRate} samples per second`);
    if (!(seconds >= 0 && seconds * sampleRate < MOST_POSITIONS)) refuse('its sound timestamps are invalid');
    if (!video && !(seconds > 0)) refuse('its sound track is empty');
  }
}

function refuse(what: string): never {
  throw new RefusedMedia(`The file is damaged: ${what}. Export it again from a program that plays it.`);
}

function checkPicture({ width, height, rate, seconds }: ProbedPicture['facts']): void {
  const isEdge = (pixels: number): boolean => Number.isInteger(pixels) && pixels >= 1 && pixels <= LONGEST_EDGE;
  if (!isEdge(width) || !isEdge(height)) refuse(`its picture claims ${width} × ${height} pixels`);
  if (!(rate.num >= 1 && rate.den >= 1 && rate.num <= 1e9 && rate.den <= 1e9 && rate.num / rate.den <= FASTEST))
    refuse(`its picture claims ${rate.num}/${rate.den} fps`);
  if (!(seconds >= 0 && seconds < 1e9)) refuse('its frame timestamps are invalid');
}

// A container's table may promise packets that a cut-short file no longer has; the last one tells.
async function checkComplete(track: InputTrack): Promise<void> {
  const sink = new EncodedPacketSink(track);
  let last;
  try {
    last = await sink.getPacket(Infinity);
  } catch {
    last = null;
  }
  if (!last || last.data.byteLength === 0) {
    throw new RefusedMedia('The file is incomplete: its end is missing. Copy it again from its origin.');
  }
}

/** Packets looked into for how the picture is scanned. */
const SCAN_PACKETS = 8;

// Of the codecs that browsers decode, only H.264 is met with in interlaced form.
async function scanOf(video: InputVideoTrack): Promise<Scan> {
  if ((await video.getCodec()) !== 'avc') return 'progressive';
  const description = (await video.getDecoderConfig())?.description;
  const packets: Uint8Array[] = [];
  for await (const { data } of new EncodedPacketSink(video).packets()) {
    packets.push(data);
    if (packets.length === SCAN_PACKETS) break;
  }
  return avcScan(description && bytesOf(description), packets);
}

function bytesOf(source: AllowSharedBufferSource): Uint8Array {
  return ArrayBuffer.isView(source)
    ? new Uint8Array(source.buffer, source.byteOffset, source.byteLength)
    : new Uint8Array(source);
}

const wideLight: Record<string, 'pq' | 'hlg' | undefined> = { pq: 'pq', hlg: 'hlg' };

async function factsOf(
  input: Input,
  video: ProbedPicture['facts'] | null,
  sounds: readonly InputAudioTrack[],
  bytes: number,
): Promise<MediaFacts> {
  const heard = await Promise.all(sounds.map(soundFacts));
  return {
    container: (await input.getFormat()).name,
    mime: await input.getMimeType(),
    bytes,
    video,
    audio: heard[0] ?? null,
    ...(heard.length > 1 && { sounds: heard }),
  };
}

async function pictureFacts(video: InputVideoTrack, index: FrameIndex): Promise<ProbedPicture['facts']> {
  const codecString = (await video.getCodecParameterString()) ?? 'unknown';
  const bits = bitsOf(codecString);
  const said = await video.getColorSpace();
  const light = wideLight[said.transfer ?? ''];
  const { rate: measured, constant } = measureRate(index);
  const fits = constant ? [] : rateFits(index);
  const rate = fits[0]?.rate ?? measured;
  return {
    codec: (await video.getCodec()) ?? 'unknown',
    codecString,
    width: await video.getDisplayWidth(),
    height: await video.getDisplayHeight(),
    rotation: await video.getRotation(),
    rate,
    frames: index.timestamps.length,
    constantRate: constant,
    ...(fits.length > 0 && { varying: { average: meanRate(index), fits } }),
    longestGroup: longestGroup(index),
    seconds: index.timestamps.length > 1 ? lengthOf(index) : index.lastDuration || rate.den / rate.num,
    scan: await scanOf(video),
    colours: { matrix: said.matrix ?? 'unspecified', fullRange: said.fullRange === true },
    ...(bits > 8 && { bits }),
    ...(light && { light }),
  };
}

/** The tracks of sound, the one first that players play unless told otherwise. */
async function soundTracks(input: Input): Promise<InputAudioTrack[]> {
  const first = await input.getPrimaryAudioTrack();
  const all = await input.getAudioTracks();
  return first ? [first, ...all.filter((track) => track !== first)].slice(0, MOST_SOUND_TRACKS) : [];
}

async function soundFacts(track: InputAudioTrack): Promise<SoundFacts> {
  const [name, language] = [await track.getName(), await track.getLanguageCode()];
  return {
    codec: (await track.getCodec()) ?? 'unknown',
    channels: await track.getNumberOfChannels(),
    sampleRate: await track.getSampleRate(),
    seconds: await track.computeDuration(),
    ...(name && { name: keptText(name, 100) }),
    ...(language !== 'und' && { language }),
  };
}
