import { spawn, type ChildProcessByStdio } from 'node:child_process';
import { once } from 'node:events';
import type { Writable } from 'node:stream';

/** Debian's packages that a pipeline here takes its elements from. */
const PACKAGES = 'gstreamer1.0-tools and gstreamer1.0-plugins-base, -good, -bad, -ugly and gstreamer1.0-libav';

/** Samples that an AAC encoder puts before the first: one frame (ISO/IEC 14496-3). */
export const AAC_PRIMING = 1024;

export interface RawPictures {
  width: number;
  height: number;
  /** Frames per second, such as `30000/1001`. */
  rate: string;
  format: 'i420' | 'rgba';
  /** Two fields in each frame, and which lines come first. */
  fields?: 'top' | 'bottom';
}

export interface RawSound {
  /** A file of 32-bit floating-point samples, the channels in turn. */
  path: string;
  rate: number;
  channels: number;
}

/** Elements of a pipeline, each with its settings. */
export type Elements = readonly string[];

/** What reads frames from standard input. */
export function picturesIn({ width, height, rate, format, fields }: RawPictures): Elements {
  const shape = [`width=${width}`, `height=${height}`, `framerate=${rate}`, `format=${format}`];
  const parsed = ['fdsrc fd=0', `rawvideoparse ${shape.join(' ')} interlaced=${fields !== undefined}`];
  // The encoder looks for the order of fields among the capabilities only.
  return fields ? [...parsed, `capssetter caps=video/x-raw,field-order=${fields}-field-first`] : parsed;
}

/** What reads sound from a file and codes it: as AAC unless told. */
export function soundIn(
  { path, rate, channels }: RawSound,
  bitrate: number,
  codec: 'aac' | 'ac3' | 'eac3' = 'aac',
): Elements {
  const shape = `format=pcm pcm-format=f32le sample-rate=${rate} num-channels=${channels}`;
  // Five channels and one for low effects, in the order of WAVE files.
  const positions = channels === 6 ? ',channel-mask=(bitmask)0x3f' : '';
  const caps = `audio/x-raw,rate=${rate},channels=${channels}${positions}`;
  return [
    `filesrc location=${path}`,
    `rawaudioparse ${shape}`,
    `capssetter replace=false caps="${caps}"`,
    `avenc_${codec} bitrate=${bitrate}`,
  ];
}

/**
 * Starts a pipeline of GStreamer. Frames are written to its standard input, which is then ended.
 * @param chains each a chain of elements; a chain that begins with `name.` goes on from the element of that name.
 */
export function launch(chains: readonly Elements[]): ChildProcessByStdio<Writable, null, null> {
  const words = chains.map((chain) => chain.join(' ! ')).join(' ');
  return spawn('gst-launch-1.0', ['-q', ...splitWords(words)], { stdio: ['pipe', 'inherit', 'inherit'] });
}

/** Waits until a pipeline has written everything. Throws where it failed. */
export async function finished(pipeline: ReturnType<typeof launch>): Promise<void> {
  pipeline.stdin.end();
  const [status] = (await once(pipeline, 'exit')) as [number];
  if (status !== 0) throw new Error(`GStreamer ended with status ${status}. It needs Debian’s packages ${PACKAGES}.`);
}

/** Writes one frame, waiting where the pipeline is behind. */
export async function writeFrame(pipeline: ReturnType<typeof launch>, frame: Uint8Array): Promise<void> {
  if (!pipeline.stdin.write(frame)) await once(pipeline.stdin, 'drain');
}

// A pipeline's words, with what stands in quotation marks as one.
function splitWords(text: string): string[] {
  return (text.match(/(?:[^\s"]|"[^"]*")+/g) ?? []).map((word) => word.replaceAll('"', ''));
}
