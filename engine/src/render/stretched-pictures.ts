import { rateToNumber, pictureCodingOf, stretchesOf } from '@hastig/core';
import {
  EncodedVideoPacketSource,
  MkvOutputFormat,
  NullTarget,
  Output,
  type VideoSample,
  type VideoSampleSource,
} from 'mediabunny';
import type { RenderJob } from './job';
import { pictureEncoder } from './picture-encoder';

/** Packets that may wait to be written before no further picture is taken. */
const MOST_WAITING = 64;

/** One stretch, with an encoder of its own. */
class Stretch {
  private readonly source: VideoSampleSource;
  // An encoder of the library's is part of a file; this one's is written nowhere.
  private readonly file = new Output({ format: new MkvOutputFormat(), target: new NullTarget() });
  private waiting = 0;
  private given: Promise<void>;

  /** @param before ends when all packets of the stretch before are written */
  constructor(job: RenderJob, track: EncodedVideoPacketSource, before: Promise<void>) {
    this.given = before;
    this.source = pictureEncoder(job, (packet, meta) => {
      this.waiting++;
      this.given = this.given.then(() => track.add(packet, meta)).then(() => void this.waiting--);
      // Whoever waits for the last one hears of it.
      this.given.catch(() => undefined);
    });
    this.file.addVideoTrack(this.source, { frameRate: rateToNumber(job.rate) });
  }

  start(): Promise<void> {
    return this.file.start();
  }

  async add(sample: VideoSample): Promise<void> {
    await this.source.add(sample);
    if (this.waiting > MOST_WAITING) await this.given;
  }

  async end(): Promise<void> {
    await this.file.finalize();
    await this.given;
  }

  async giveUp(): Promise<void> {
    if (this.file.state !== 'finalized' && this.file.state !== 'canceled') await this.file.cancel();
  }
}

/**
 * The pictures of a file, encoded in stretches: what becomes of one does not hang on what came before it, so that it is the same to the
 * bit whether a film is rendered in one piece or in many (`stretchesOf`).
 */
export class StretchedPictures {
  /** The track that they are written to. */
  readonly track: EncodedVideoPacketSource;
  private readonly starts: ReadonlySet<number>;
  private current: Stretch | undefined;
  private ended = Promise.resolve();

  /** @param frames of the whole file */
  constructor(
    private readonly job: RenderJob,
    frames: number,
  ) {
    this.track = new EncodedVideoPacketSource(pictureCodingOf(job)!);
    this.starts = new Set(stretchesOf(frames, job.rate, job.keyEvery).map(({ from }) => from));
  }

  /** Encodes picture `n`, which has its time already and stays the caller's. They come in order. */
  async add(sample: VideoSample, n: number): Promise<void> {
    if (!this.current || this.starts.has(n)) await this.begin();
    await this.current!.add(sample);
  }

  /** Waits until all of them are written. */
  async end(): Promise<void> {
    await this.ended;
    await this.current?.end();
  }

  /** Lets go of the encoder where something failed. */
  async giveUp(): Promise<void> {
    await this.current?.giveUp().catch(() => undefined);
  }

  // The next one begins while the last packets of the one before are still on their way; of more than two none is kept.
  private async begin(): Promise<void> {
    await this.ended;
    if (this.current) {
      this.ended = this.current.end();
      this.ended.catch(() => undefined);
    }
    this.current = new Stretch(this.job, this.track, this.ended);
    await this.current.start();
  }
}
