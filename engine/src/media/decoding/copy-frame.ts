import { shrinkPlane, type Size, type ValuePlane, type VideoColours } from '@hastig/core';

/** How a plane lies to the picture: every how many pixels it has a value, across and down, and how many channels. */
type PlaneShape = readonly [across: number, down: number, channels: number];

const fullSize: PlaneShape = [1, 1, 1];
/** The planes of pixel formats (WebCodecs, “Pixel Format”), those of more bits by the same names. */
const shapes: Readonly<Record<string, readonly PlaneShape[]>> = {
  I420: [fullSize, [2, 2, 1], [2, 2, 1]],
  I422: [fullSize, [2, 1, 1], [2, 1, 1]],
  I444: [fullSize, fullSize, fullSize],
  NV12: [fullSize, [2, 2, 2]],
  RGBA: [[1, 1, 4]],
  RGBX: [[1, 1, 4]],
  BGRA: [[1, 1, 4]],
  BGRX: [[1, 1, 4]],
};

interface Layout {
  planes: { offset: number; stride: number }[];
  bytes: number;
}

// Rows begin at whole words, for whoever adds up four values at once.
function layoutOf({ width, height }: Size, kinds: readonly PlaneShape[], unit: number): Layout {
  let bytes = 0;
  const planes = kinds.map(([across, down, channels]) => {
    const stride = Math.ceil((Math.ceil(width / across) * channels * unit) / 4) * 4;
    const plane = { offset: bytes, stride };
    bytes += stride * Math.ceil(height / down);
    return plane;
  });
  return { planes, bytes };
}

/**
 * A copy of a decoder's frame that lies in memory of our own, so that the decoder gets its frame back at once: hardware lends
 * a handful of them and stands still until they are returned.
 *
 * @param factor by which it is made smaller; a third of the size takes a ninth of the memory
 * @param colours that its values stand for, whatever the decoder says; null for what it says
 */
export async function copyOfFrame(
  frame: VideoFrame,
  factor: number,
  colours: VideoColours | null,
): Promise<VideoFrame> {
  const kinds = shapes[(frame.format ?? '').replace(/P1[02]$/, '')];
  if (!kinds) return drawnCopy(frame, factor);
  try {
    return await copyOfPlanes(frame, kinds, factor, colours);
  } catch {
    // A format that this browser gives and does not take.
    return drawnCopy(frame, factor);
  }
}

/** A picture of nothing in place of one that nobody will look at; whoever reads counts on one for each. */
export function blankFor({ timestamp, duration }: VideoFrame): VideoFrame {
  return new VideoFrame(new Uint8Array(6), {
    ...{ format: 'I420', codedWidth: 2, codedHeight: 2, timestamp },
    ...(duration !== null && { duration }),
  });
}

async function copyOfPlanes(
  frame: VideoFrame,
  kinds: readonly PlaneShape[],
  factor: number,
  colours: VideoColours | null,
): Promise<VideoFrame> {
  const { width, height } = frame.visibleRect!;
  const unit = /P1[02]$/.test(frame.format!) ? 2 : 1;
  const layout = layoutOf({ width, height }, kinds, unit);
  if (factor === 1) {
    const kept = new ArrayBuffer(layout.bytes);
    await frame.copyTo(kept, { layout: layout.planes });
    return madeOf(frame, kept, { width, height }, layout, colours);
  }
  const buffer = takeScratch(layout.bytes);
  await frame.copyTo(buffer, { layout: layout.planes });
  // Even, so that what has half the values has whole ones.
  const even = kinds.some(([across, down]) => across > 1 || down > 1) ? 2 : 1;
  const small = {
    width: Math.max(even, Math.floor(width / factor / even) * even),
    height: Math.max(even, Math.floor(height / factor / even) * even),
  };
  const smaller = layoutOf(small, kinds, unit);
  const into = new ArrayBuffer(smaller.bytes);
  kinds.forEach(([across, down, channels], index) => {
    const plane = (
      bytes: ArrayBuffer,
      size: Size,
      { offset, stride }: { offset: number; stride: number },
    ): ValuePlane => ({
      values: unit === 1 ? new Uint8Array(bytes) : new Uint16Array(bytes),
      ...{ offset: offset / unit, stride: stride / unit, channels },
      ...{ width: Math.ceil(size.width / across), height: Math.ceil(size.height / down) },
    });
    shrinkPlane(
      plane(buffer, { width, height }, layout.planes[index]!),
      factor,
      plane(into, small, smaller.planes[index]!),
    );
  });
  scratch.push(buffer);
  return madeOf(frame, into, small, smaller, colours);
}

// Whole pictures pass through here and are not kept: new memory for each would be garbage by the gigabyte.
const scratch: ArrayBuffer[] = [];
const MOST_SCRATCH = 2;

function takeScratch(bytes: number): ArrayBuffer {
  scratch.splice(MOST_SCRATCH);
  const at = scratch.findIndex(({ byteLength }) => byteLength === bytes);
  if (at < 0) {
    scratch.length = 0;
    return new ArrayBuffer(bytes);
  }
  return scratch.splice(at, 1)[0]!;
}

function madeOf(
  frame: VideoFrame,
  data: ArrayBuffer,
  { width, height }: Size,
  { planes }: Layout,
  colours: VideoColours | null,
): VideoFrame {
  const rect = frame.visibleRect!;
  // Younger than TypeScript's library: the memory is handed over and not copied once more.
  const handed: object = { transfer: [data] };
  return new VideoFrame(data, {
    format: frame.format!,
    ...{ codedWidth: width, codedHeight: height, layout: planes },
    // Pixels that are no squares stay so.
    displayWidth: Math.max(1, Math.round((frame.displayWidth / rect.width) * width)),
    displayHeight: Math.max(1, Math.round((frame.displayHeight / rect.height) * height)),
    timestamp: frame.timestamp,
    ...(frame.duration !== null && { duration: frame.duration }),
    colorSpace: colours ?? frame.colorSpace.toJSON(),
    ...handed,
  });
}

// Of a frame whose values nobody may see, as hardware may give it.
function drawnCopy(frame: VideoFrame, factor: number): VideoFrame {
  const { displayWidth: width, displayHeight: height } = frame;
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(width / factor)), Math.max(1, Math.round(height / factor)));
  canvas.getContext('2d', { alpha: false })!.drawImage(frame, 0, 0, canvas.width, canvas.height);
  return new VideoFrame(canvas, {
    timestamp: frame.timestamp,
    ...(frame.duration !== null && { duration: frame.duration }),
  });
}
