import type { Rate } from '@hastig/contract';
import { EncodedPacketSink, type InputVideoTrack } from 'mediabunny';
import { RefusedMedia } from './refused';

/** When each frame of a video is shown and which frames can be decoded on their own; frames in the order of showing. */
export interface FrameIndex {
  /** Seconds, one a frame, rising. */
  readonly timestamps: Float64Array;
  /** Frames that start a group of pictures, rising; the first is 0. */
  readonly groupStarts: Uint32Array;
  /** Seconds the last frame stays; 0 where the file does not say. */
  readonly lastDuration: number;
}

/** Seconds from the first frame to where the last one ends: as long as it stays, or as the frames do on the whole. */
export function lengthOf({ timestamps, lastDuration }: FrameIndex): number {
  const span = timestamps.at(-1)! - timestamps[0]!;
  return span + (lastDuration > 0 ? lastDuration : span / Math.max(1, timestamps.length - 1));
}

/** Seconds at which the last frame ends, on the file's clock. */
export function endOf(index: FrameIndex): number {
  return index.timestamps[0]! + lengthOf(index);
}

/** The frames of a file that are shown, and all that are in it; the same index where none is cut off. */
interface FileFrameIndex {
  shown: FrameIndex;
  all: FrameIndex;
}

/**
 * Reads a video track's packets, without their data, into an index by frame.
 *
 * Packets come in decoding order; with B-frames that is not the order of showing, so they are sorted. What ends before time 0
 * is decoded and not shown: an edit list cut it off (ISO/IEC 14496-12, 8.6.6).
 *
 * @param most frames at most
 * @throws RefusedMedia as soon as there are more
 */
export async function indexFrames(track: InputVideoTrack, most: number): Promise<FileFrameIndex> {
  const packets: Packet[] = [];
  for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) {
    if (packets.length === most)
      throw new RefusedMedia(`The file has more than ${most} frames. Split it into shorter files.`);
    packets.push({ timestamp: packet.timestamp, duration: packet.duration, key: packet.type === 'key' });
  }
  packets.sort((a, b) => a.timestamp - b.timestamp);
  const all = indexOf(packets);
  const first = firstShown(packets);
  return { shown: first === 0 ? all : indexOf(packets.slice(first)), all };
}

interface Packet {
  timestamp: number;
  duration: number;
  key: boolean;
}

function indexOf(packets: readonly Packet[]): FrameIndex {
  const starts = packets.flatMap((packet, frame) => (packet.key ? [frame] : []));
  return {
    timestamps: Float64Array.from(packets, (packet) => packet.timestamp),
    groupStarts: Uint32Array.from(starts[0] === 0 ? starts : [0, ...starts]),
    lastDuration: packets.at(-1)?.duration ?? 0,
  };
}

/** Frames that are over at time 0, to within the container's rounding, are cut off; at least one is left. */
function firstShown(packets: readonly { timestamp: number }[]): number {
  const next = packets.findIndex(({ timestamp }) => timestamp > 5e-7);
  return Math.max(0, (next < 0 ? packets.length : next) - 1);
}

/** Index of the last element of a rising array that is at most `value`; −1 where there is none. */
export function lastAtMost(rising: Float64Array | Uint32Array, value: number): number {
  let low = -1;
  let high = rising.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (rising[middle]! <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The frame shown at a moment (seconds), to within half a microsecond of container rounding. */
export function frameAtTime(index: FrameIndex, seconds: number): number {
  return Math.max(0, lastAtMost(index.timestamps, seconds + 5e-7));
}

const steps = new WeakMap<FrameIndex, number>();

/** By how much a frame's time may be rounded up or down, in seconds: half a millisecond where all of them are whole ones. */
export function roundingOf(index: FrameIndex): number {
  let known = steps.get(index);
  if (known === undefined) {
    known = index.timestamps.every((time) => Math.abs(time * 1000 - Math.round(time * 1000)) < 1e-6) ? 5e-4 : 0;
    steps.set(index, known);
  }
  return known;
}

/**
 * The frame shown at a position of an even rate along the file's time: the one whose time covers position / rate seconds after
 * the first, to within the container's own rounding.
 */
export function frameAtPosition(index: FrameIndex, rate: Rate, position: number): number {
  return frameAtTime(index, index.timestamps[0]! + (position * rate.den) / rate.num + roundingOf(index));
}

/** The first position of an even rate at which a frame is shown, or the one after it where it falls between two. */
export function positionOfFrame(index: FrameIndex, rate: Rate, frame: number): number {
  const seconds = index.timestamps[frame]! - index.timestamps[0]! - roundingOf(index) - 5e-7;
  return Math.max(0, Math.ceil((seconds * rate.num) / rate.den));
}

/** The group of pictures in which a frame lies, as frames: `start` included, `end` not. */
export function groupOf(index: FrameIndex, frame: number): { start: number; end: number } {
  const group = Math.max(0, lastAtMost(index.groupStarts, frame));
  return { start: index.groupStarts[group]!, end: index.groupStarts[group + 1] ?? index.timestamps.length };
}

/** Frames in the longest group of pictures. */
export function longestGroup({ groupStarts, timestamps }: FrameIndex): number {
  let longest = 0;
  groupStarts.forEach((start, group) => {
    longest = Math.max(longest, (groupStarts[group + 1] ?? timestamps.length) - start);
  });
  return longest;
}
