import type { MediaFacts, Scan } from '@hastig/contract';
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
import { indexFrames, longestGroup, type FrameIndex } from './frame-index';
import { measureRate } from './frame-rate';
import { RefusedMedia } from './refused';

/** A file opened for reading, with what is known of it. Call `dispose` when done. */
export interface ProbedMedia {
  input: Input;
  video: InputVideoTrack;
  audio: InputAudioTrack | null;
  index: FrameIndex;
  facts: MediaFacts;
  dispose(): void;
}

/** Most frames of one source: 2 hours at 240 frames a second and some. */
const MOST_FRAMES = 2_000_000;

/**
 * Reads what a media file is: container, codecs, size, exact rate, frame count, sound; from its packets, not
 * from a length times a rate. Decodes nothing.
 *
 * @param source where the bytes come from (a file, an address); read in parts, never whole
 * @param bytes its size
 * @throws RefusedMedia for what is no video: empty, not a media file, cut short, without a picture
 */
export async function probeMedia(source: Source, bytes: number): Promise<ProbedMedia> {
  if (bytes === 0) throw new RefusedMedia('The file is empty.');
  const input = new Input({ source, formats: ALL_FORMATS });
  try {
    if (!(await input.canRead())) {
      throw new RefusedMedia(
        'This is not a video file that Hastig knows, whatever its name says. MP4, MOV, MKV and WebM work.',
      );
    }
    const video = await input.getPrimaryVideoTrack();
    if (!video) throw new RefusedMedia('The file has no picture, only sound.');
    const audio = await input.getPrimaryAudioTrack();
    const index = await indexFrames(video);
    if (index.timestamps.length === 0) throw new RefusedMedia('The file has a picture track, but no frame in it.');
    if (index.timestamps.length > MOST_FRAMES) throw new RefusedMedia(`The file has more than ${MOST_FRAMES} frames.`);
    await Promise.all([checkComplete(video), audio && checkComplete(audio)]);
    return {
      input,
      video,
      audio,
      index,
      facts: await factsOf(input, video, audio, index, bytes),
      dispose: () => input.dispose(),
    };
  } catch (error) {
    input.dispose();
    if (error instanceof RefusedMedia) throw error;
    throw new RefusedMedia(`The file is damaged or cut short and cannot be read (${(error as Error).message}).`);
  }
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
    throw new RefusedMedia(
      'The file is cut short: its last part is missing. Copy it again from where it was recorded.',
    );
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

async function factsOf(
  input: Input,
  video: InputVideoTrack,
  audio: InputAudioTrack | null,
  index: FrameIndex,
  bytes: number,
): Promise<MediaFacts> {
  const { rate, constant } = measureRate(index);
  const first = index.timestamps[0]!;
  const last = index.timestamps.at(-1)!;
  const tail = index.lastDuration > 0 ? index.lastDuration : rate.den / rate.num;
  return {
    container: (await input.getFormat()).name,
    mime: await input.getMimeType(),
    bytes,
    video: {
      codec: (await video.getCodec()) ?? 'unknown',
      codecString: (await video.getCodecParameterString()) ?? 'unknown',
      width: await video.getDisplayWidth(),
      height: await video.getDisplayHeight(),
      rotation: await video.getRotation(),
      rate,
      frames: index.timestamps.length,
      constantRate: constant,
      longestGroup: longestGroup(index),
      seconds: last - first + tail,
      scan: await scanOf(video),
    },
    audio: audio && {
      codec: (await audio.getCodec()) ?? 'unknown',
      channels: await audio.getNumberOfChannels(),
      sampleRate: await audio.getSampleRate(),
      seconds: await audio.computeDuration(),
    },
  };
}
