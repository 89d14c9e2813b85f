import { PROXY_PIECE_FRAMES, type MediaFacts } from '@hastig/contract';
import { rateToNumber, type Size } from '@hastig/core';
import { RefusedMedia } from '@hastig/probe';
import { BufferTarget, Mp4OutputFormat, Output, Quality, VideoSampleSource } from 'mediabunny';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';
import type { SourceFrames } from '../media/source-frames';
import type { DeriveJob, Maker } from './job';
import type { PieceSpan } from './pieces';

/** Frames in a group of pictures: few, so that any frame is decoded at once. */
const GROUP = 12;
/** Frames decoded ahead of the encoder. */
const LOOK_AHEAD = 12;
/** Bytes of decoded pictures kept; the way goes straight on. */
const BUDGET = 72 * 2 ** 20;
/** Pixels of a copy's longer edge at most. */
const LONGEST_EDGE = 640;

/** Makes a proxy: every frame of the file, small, in groups of a dozen. */
export async function proxyMaker({ location }: DeriveJob): Promise<Maker> {
  // A copy has the file's own frames, however they are counted.
  const source = await openSource({ ...location, counting: { by: 'frame' } }, new PictureBudget(BUDGET));
  const { exact } = source;
  const { video } = source.facts;
  if (!video) {
    await source.close();
    throw new RefusedMedia('Only moving pictures can have a proxy.');
  }
  return {
    total: exact.frames,
    perPiece: PROXY_PIECE_FRAMES,
    make: (span, onDone, signal) => encodePiece(exact, video, span, onDone, signal),
    close: () => source.close(),
  };
}

/**
 * Pixels of a copy: the picture's shape, small and even. A picture in fields keeps its size, for made smaller its lines
 * would no longer belong to one field or the other.
 */
export function copySize({ width, height }: Size, interlaced: boolean): Size {
  const scale = interlaced ? 1 : Math.min(1, LONGEST_EDGE / Math.max(width, height));
  const even = (pixels: number): number => Math.max(2, 2 * Math.round((pixels * scale) / 2));
  return { width: even(width), height: even(height) };
}

async function encodePiece(
  exact: SourceFrames,
  video: NonNullable<MediaFacts['video']>,
  { start, end }: PieceSpan,
  onFrame: (count: number) => void,
  signal: AbortSignal,
): Promise<ArrayBuffer> {
  const rate = rateToNumber(video.rate);
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  const picture = new VideoSampleSource({
    codec: 'avc',
    quality: new Quality({ quality: 'medium', preferBitrate: true }),
    keyFrameInterval: GROUP / rate,
    latencyMode: 'realtime',
    transform: { ...copySize(video, (video.scan ?? 'progressive') !== 'progressive'), fit: 'fill' },
  });
  output.addVideoTrack(picture, { frameRate: rate });
  try {
    await output.start();
    for (let frame = start; frame < end; frame++) {
      signal.throwIfAborted();
      const ahead = Math.min(end, frame + LOOK_AHEAD) - frame;
      exact.prefetch(
        Array.from({ length: ahead }, (_, i) => frame + i),
        1,
      );
      const sample = await exact.get(frame);
      sample.setTimestamp((frame - start) / rate);
      sample.setDuration(1 / rate);
      try {
        await picture.add(sample);
      } finally {
        sample.close();
      }
      onFrame(frame - start + 1);
    }
    await output.finalize();
    return target.buffer!;
  } catch (error) {
    if (output.state !== 'finalized' && output.state !== 'canceled') await output.cancel().catch(() => undefined);
    throw error;
  }
}
