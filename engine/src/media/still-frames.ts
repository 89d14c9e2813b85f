import type { Size } from '@hastig/core';
import type { ArchivedStill } from '@hastig/probe';
import { VideoSample } from 'mediabunny';
import { FrameCache } from './frame-cache';
import type { PictureBudget } from './picture-budget';
import { shrinkFactor } from './shrink-factor';
import type { SourceFrames } from './source-frames';

interface Waiter {
  frame: number;
  resolve(sample: VideoSample): void;
  reject(error: unknown): void;
}

/** The pictures of a still or of numbered stills, each decoded when it is wanted, one after the other. */
export class StillFrames implements SourceFrames {
  private readonly cache: FrameCache;
  private waiters: Waiter[] = [];
  private wanted: readonly number[] = [];
  private factor = 1;
  private running = false;
  private closed = false;

  /**
   * @param contentOf a picture's bytes, as a file of its own
   * @param size of the pictures, as displayed
   */
  constructor(
    private readonly pictures: readonly ArchivedStill[],
    private readonly contentOf: (picture: ArchivedStill) => Promise<Blob>,
    private readonly size: Size,
    budget: PictureBudget,
  ) {
    this.cache = new FrameCache(budget);
  }

  get frames(): number {
    return this.pictures.length;
  }

  peek(frame: number): VideoSample | undefined {
    return this.cache.get(frame);
  }

  get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    if (!(frame >= 0 && frame < this.frames)) {
      return Promise.reject(new RangeError(`picture ${frame} is outside 0…${this.frames - 1}`));
    }
    const ready = this.cache.get(frame);
    if (ready) return Promise.resolve(ready.clone());
    if (signal?.aborted) return Promise.reject(signal.reason as Error);
    return new Promise((resolve, reject) => {
      const waiter = { frame, resolve, reject };
      this.waiters.push(waiter);
      signal?.addEventListener('abort', () => {
        this.waiters = this.waiters.filter((one) => one !== waiter);
        reject(signal.reason as Error);
      });
      void this.run();
    });
  }

  prefetch(frames: readonly number[], direction: 1 | -1): void {
    this.wanted = frames;
    if (frames.length > 0) this.cache.aim(frames[0]!, direction);
    void this.run();
  }

  // Each picture is coded on its own.
  group(frame: number): { start: number; end: number } {
    return { start: frame, end: frame + 1 };
  }

  fitTo(fit: Size | null): void {
    const factor = shrinkFactor(this.size, fit);
    if (factor === this.factor) return;
    this.factor = factor;
    this.cache.clear();
  }

  rest(): void {
    this.wanted = [];
    this.cache.clear();
  }

  close(): Promise<void> {
    this.closed = true;
    this.wanted = [];
    for (const waiter of this.waiters.splice(0)) waiter.reject(new Error('the source was closed'));
    this.cache.clear();
    return Promise.resolve();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    for (let frame = this.nextWanted(); frame !== undefined; frame = this.nextWanted()) await this.make(frame);
    this.running = false;
  }

  private nextWanted(): number | undefined {
    if (this.closed) return undefined;
    return this.waiters[0]?.frame ?? this.wanted.find((frame) => !this.cache.has(frame));
  }

  private async make(frame: number): Promise<void> {
    const { factor } = this;
    try {
      const sample = await this.decoded(this.pictures[frame]!, factor);
      for (const waiter of this.taken(frame)) waiter.resolve(sample.clone());
      if (this.closed || factor !== this.factor) sample.close();
      else this.cache.put(frame, sample);
    } catch (error) {
      for (const waiter of this.taken(frame)) waiter.reject(error);
    }
    // What does not fit into the budget, or cannot be decoded, is not tried again and again.
    this.wanted = this.wanted.filter((one) => one !== frame);
  }

  private taken(frame: number): Waiter[] {
    const served = this.waiters.filter((waiter) => waiter.frame === frame);
    this.waiters = this.waiters.filter((waiter) => waiter.frame !== frame);
    return served;
  }

  private async decoded(picture: ArchivedStill, factor: number): Promise<VideoSample> {
    const content = await this.contentOf(picture);
    const smaller = {
      resizeWidth: Math.max(1, Math.round(this.size.width / factor)),
      resizeHeight: Math.max(1, Math.round(this.size.height / factor)),
      resizeQuality: 'high',
    } as const;
    const bitmap = await createImageBitmap(content, factor > 1 ? smaller : {}).catch((cause: unknown) => {
      throw new Error(`The picture${picture.name ? ` ${picture.name}` : ''} can’t be decoded: it is damaged.`, {
        cause,
      });
    });
    const frame = new VideoFrame(bitmap, { timestamp: 0 });
    bitmap.close();
    return new VideoSample(frame);
  }
}

/** The pictures of what has none: sound alone. */
export const noFrames: SourceFrames = {
  frames: 0,
  peek: () => undefined,
  get: () => Promise.reject(new RangeError('there is no picture, only sound')),
  prefetch: () => undefined,
  group: (frame) => ({ start: frame, end: frame + 1 }),
  fitTo: () => undefined,
  rest: () => undefined,
  close: () => Promise.resolve(),
};
