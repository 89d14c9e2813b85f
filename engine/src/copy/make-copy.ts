import type { CopyPiece } from '@hastig/contract';
import { rateToNumber } from '@hastig/core';
import { BufferTarget, Mp4OutputFormat, Output, Quality, VideoSampleSource } from 'mediabunny';
import type { FileLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource, type OpenSource } from '../media/source';
import { copySize, missingPieces, type PieceSpan } from './plan';

/** Frames in a group of pictures: few, so that any frame is decoded at once. */
const GROUP = 12;
/** Frames decoded ahead of the encoder. */
const LOOK_AHEAD = 12;
/** Bytes of decoded pictures kept; the way goes straight on. */
const BUDGET = 72 * 2 ** 20;
/** Frames between two words of progress. */
const TELL_EVERY = 10;

/** A scrubbing copy to be made. */
export interface CopyJob {
  location: FileLocation;
  /** Pieces that are there already. */
  there: readonly CopyPiece[];
  /** Where pieces go: this address, a slash, the piece's number. */
  address: string;
}

export interface CopyProgress {
  /** Frames of the whole copy that are there, and all of them. */
  done: number;
  total: number;
  /** A piece that was sent just now. */
  sent?: CopyPiece;
}

/**
 * Makes what is missing of a source's scrubbing copy, piece by piece, and sends each when it is whole: every frame of the
 * file, small, in groups of a dozen.
 *
 * @throws RefusedMedia, what decoder or encoder throw, an Error with the server's reason; an AbortError when `signal` is
 */
export async function makeCopy(
  { location, there, address }: CopyJob,
  onProgress: (progress: CopyProgress) => void,
  signal: AbortSignal,
): Promise<void> {
  // A copy has the file's own frames, however they are counted.
  const source = await openSource({ ...location, counting: { by: 'frame' } }, new PictureBudget(BUDGET));
  try {
    const { frames } = source.exact;
    const missing = missingPieces(frames, there);
    let done = frames - missing.reduce((sum, { start, end }) => sum + end - start, 0);
    for (const span of missing) {
      const before = done;
      const content = await encodePiece(source, span, signal, (count) => {
        done = before + count;
        if (count % TELL_EVERY === 0) onProgress({ done, total: frames });
      });
      const response = await fetch(`${address}/${span.piece}`, {
        method: 'PUT',
        headers: { 'Content-Type': 'video/mp4' },
        body: content,
        signal,
      });
      if (!response.ok) throw new Error(await reasonOf(response));
      onProgress({ done, total: frames, sent: { piece: span.piece, bytes: content.byteLength } });
    }
  } finally {
    await source.close();
  }
}

async function encodePiece(
  { exact, media }: OpenSource,
  { start, end }: PieceSpan,
  signal: AbortSignal,
  onFrame: (count: number) => void,
): Promise<ArrayBuffer> {
  const { video } = media.facts;
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

async function reasonOf(response: Response): Promise<string> {
  const problem = (await response.json().catch(() => ({}))) as { title?: string; detail?: string };
  return problem.detail ?? problem.title ?? `The server answered ${response.status}.`;
}
