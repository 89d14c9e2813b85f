import type { H264Encoder } from './framework';
import type { FoundMedia } from './found';

/**
 * Ticks a second of the pictures' times: a multiple of all rates of film and television, of the fractions too (24000/1001, 30000/1001),
 * so that none of their frames stands between two.
 */
export const TICKS = 120_000;

/** Frames between two that are coded by themselves: few, so that any frame is soon reached, forwards and backwards. */
const GROUP = 12;
/** How coarse pictures are coded: 0 nothing is lost, 51 nearly all; nothing of it is seen up to 18 (common practice). */
const QUANTIZER = 14;
/** Bits for each pixel of a second, where only a rate can be told: high. */
const BITS_PER_PIXEL = 12;

const encodings: Readonly<Record<H264Encoder, (video: NonNullable<FoundMedia['video']>) => string[]>> = {
  // No frame refers to a later one: the order of frames is that of their times.
  x264enc: ({ interlaced }) => ['x264enc', 'pass=quant', `quantizer=${QUANTIZER}`, `key-int-max=${GROUP}`, 'bframes=0', 'speed-preset=veryfast', ...(interlaced ? ['interlaced=true'] : [])], // prettier-ignore
  openh264enc: ({ width, height }) => ['openh264enc', `gop-size=${GROUP}`, 'rate-control=bitrate', `qp-max=${QUANTIZER + 4}`, 'complexity=medium', `bitrate=${Math.min(200_000_000, width * height * BITS_PER_PIXEL)}`], // prettier-ignore
};

/** Samples of sound; those of 24 bits are named aright afterwards. */
const soundFormats = { 16: 'S16LE', 24: 'S24BE' } as const;

/** Pictures that are given as RGBA, and get their times later. */
interface RawPictures {
  width: number;
  height: number;
}

/** A file in which nothing has a meaning in a pipeline. */
interface NamedFile {
  path: string;
  /**
   * It is read from its beginning on, nowhere else first: of a program stream that begins with a map, the framework's reader takes the
   * second pack for the beginning, and leaves out what comes before.
   */
  inOrder: boolean;
  /** Its video is given by itself, and this reads it. */
  video?: readonly string[];
}

/**
 * What `gst-launch-1.0` does to make of a file one that any browser decodes: H.264 of 8 bits and 4:2:0 in short groups, each frame at its
 * own time, and its sound as samples. What the file says of colours stays; turned pictures are turned.
 *
 * @param from a file, or pictures
 * @param to path of a file, in which nothing has a meaning in a pipeline
 * @throws RangeError for what has neither picture nor sound
 */
export function conversion(
  found: FoundMedia,
  encoder: H264Encoder,
  from: NamedFile | RawPictures,
  to: string,
): string[] {
  const { video, audio } = found;
  if (!video && !audio) throw new RangeError('There is neither picture nor sound.');
  // Frames are large, and pieces of sound small: each queue holds what does not fill memory.
  const queue = (most: number): string[] => ['queue', 'max-size-time=0', 'max-size-bytes=0', `max-size-buffers=${most}`]; // prettier-ignore
  const progress = ['progressreport', 'name=hastig', 'update-freq=1'];
  const picturesFrom = 'path' in from && from.video ? 'v' : 'd';
  const picture = video
    ? [`${picturesFrom}.`, '!', ...queue(8), '!', 'videoconvert', '!', 'videoflip', 'video-direction=auto', '!', 'videoconvert', '!', 'video/x-raw,format=I420', '!', ...encodings[encoder](video), '!', 'h264parse', '!', 'video/x-h264,stream-format=avc,alignment=au', '!', 'capssetter', `caps=video/x-h264,framerate=${TICKS}/1`, '!', ...progress, '!', 'mux.'] // prettier-ignore
    : [];
  const sound = audio
    ? ['d.', '!', ...queue(2000), '!', 'audioconvert', '!', `audio/x-raw,format=${soundFormats[audio.depth]},layout=interleaved`, '!', ...(video ? [] : [...progress, '!']), 'mux.'] // prettier-ignore
    : [];
  return ['-e', ...sourceOf(from, audio !== undefined), ...picture, ...sound, 'qtmux', 'name=mux', '!', 'filesink', `location=${to}`]; // prettier-ignore
}

/** What reads MPEG-1 and MPEG-2 that is given by itself; its pictures get their times later. */
export const mpegVideo = ['mpegvideoparse'] as const;

/** What reads MPEG-4 Visual that is given by itself, so that all of its pictures have times of some kind. */
export const visualVideo = ['mpeg4videoparse', '!', 'capssetter', 'caps=video/mpeg,framerate=25/1'] as const;

/** What is read: `d` is what gives pictures and sound, or `v` the pictures alone. */
function sourceOf(from: NamedFile | RawPictures, hasSound: boolean): string[] {
  if (!('path' in from))
    return ['fdsrc', 'fd=0', '!', 'rawvideoparse', 'format=rgba', `width=${from.width}`, `height=${from.height}`, 'framerate=25/1', 'name=d']; // prettier-ignore
  const { path, inOrder, video } = from;
  const file = ['filesrc', `location=${path}`, '!', ...(inOrder ? ['queue', '!'] : []), 'decodebin', 'name=d'];
  if (!video) return file;
  // Pictures that nothing takes hold the sound up.
  const sound = hasSound ? [...file, 'expose-all-streams=false', 'caps=audio/x-raw'] : [];
  return ['fdsrc', 'fd=0', '!', ...video, '!', 'decodebin', 'name=v', ...sound];
}
