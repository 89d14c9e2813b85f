import { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import { breathe } from '../worker/breathe';
import { findBetween, letGo, type Between } from './find-between';
import { planarOf } from './planar';

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
