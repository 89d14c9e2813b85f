import { planarBytes, type PlanarPicture } from '@hastig/core';
import { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import { breathe } from '../worker/breathe';
import { findBetween, letGo, type Between } from './kernels';

/** Two neighbours of a source, and what moved between them: several pictures are mostly asked for between the same two. */
interface Pair {
  frame: number;
  made: Between;
  /** What its pictures are, beside their planes. */
  like: Pick<VideoSample, 'displayWidth' | 'displayHeight' | 'colorSpace' | 'rotation'>;
  width: number;
  height: number;
}

// The last two of each source: an exposure may reach from one into the next.
const lastPairs = new WeakMap<SourceFrames, Pair[]>();
const KEPT = 2;

/** A frame's planes without gaps; undefined where they are of another kind than 4:2:0 in eight bits. */
async function planarOf(sample: VideoSample): Promise<PlanarPicture | undefined> {
  const { format, visibleRect } = sample;
  if (format !== 'I420' && format !== 'NV12') return undefined;
  const { width, height } = visibleRect;
  const bytes = new Uint8Array(sample.allocationSize());
  const layout = await sample.copyTo(bytes);
  const data = new Uint8Array(planarBytes(width, height));
  const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
  const take = (plane: number, columns: number, rows: number, to: number, step: number, first: number): void => {
    const { offset, stride } = layout[plane]!;
    for (let row = 0; row < rows; row++) {
      const from = offset + row * stride + first;
      if (step === 1) data.set(bytes.subarray(from, from + columns), to + row * columns);
      else
        for (let column = 0; column < columns; column++)
          data[to + row * columns + column] = bytes[from + step * column]!;
    }
  };
  const [luma, chroma] = [width * height, across * down];
  take(0, width, height, 0, 1, 0);
  const inPlanes = format === 'I420';
  take(1, across, down, luma, inPlanes ? 1 : 2, 0);
  take(inPlanes ? 2 : 1, across, down, luma + chroma, inPlanes ? 1 : 2, inPlanes ? 0 : 1);
  return { width, height, data };
}

const keptPair = (frames: SourceFrames, frame: number, { visibleRect }: VideoSample): Pair | undefined =>
  lastPairs
    .get(frames)
    // Pictures on the stage are as large as it is.
    ?.find((pair) => pair.frame === frame && pair.width === visibleRect.width && pair.height === visibleRect.height);

async function newPair(frame: number, first: VideoSample, second: VideoSample): Promise<Pair | undefined> {
  const [one, two] = [await planarOf(first), await planarOf(second)];
  if (!one || !two || one.width !== two.width || one.height !== two.height) return undefined;
  const { displayWidth, displayHeight, colorSpace, rotation } = first;
  const like = { displayWidth, displayHeight, colorSpace, rotation };
  return { frame, made: await findBetween(one, two), like, width: one.width, height: one.height };
}

function keep(frames: SourceFrames, pair: Pair): void {
  const before = lastPairs.get(frames) ?? [];
  const kept = [pair, ...before.filter(({ frame }) => frame !== pair.frame)].slice(0, KEPT);
  lastPairs.set(frames, kept);
  for (const other of before) if (!kept.includes(other)) letGo(other.made);
}

function pictureOf({ made, like, width, height }: Pair, share: number): VideoSample {
  return new VideoSample(made.at(share).data, {
    ...{ format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0 },
    ...like,
  });
}

/**
 * The picture between a frame of a source and the next one, made of what moved from the one to the other.
 *
 * @param share how far it is on its way to the next frame, more than 0 and less than 1
 * @returns the caller closes it; undefined where frames are of a kind that it can't be made of
 * @throws what the decoder throws
 */
export async function betweenFrames(
  frames: SourceFrames,
  frame: number,
  share: number,
  signal?: AbortSignal,
): Promise<VideoSample | undefined> {
  const first = await frames.get(frame, signal);
  try {
    // Making it takes a while: what one wants instead by now is heard of before.
    await breathe();
    signal?.throwIfAborted();
    // Made at once: what is kept may be let go of as soon as something is waited for.
    const known = keptPair(frames, frame, first);
    if (known) return pictureOf(known, share);
    const second = await frames.get(frame + 1, signal);
    try {
      const pair = await newPair(frame, first, second);
      if (!pair) return undefined;
      keep(frames, pair);
      return pictureOf(pair, share);
    } finally {
      second.close();
    }
  } finally {
    first.close();
  }
}
