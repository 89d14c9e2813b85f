import type { Size, VideoColours } from '@hastig/core';
import { frameAtTime, groupOf, type FrameIndex } from '@hastig/probe';
import { VideoSampleSink, type InputVideoTrack, type VideoSample } from 'mediabunny';
import { FrameCache } from './frame-cache';
import { installCopyingDecoder } from './decoding/copying-decoder';
import { putValve, Valve } from './decoding/valve';
import type { PictureBudget } from './picture-budget';
import { shrinkFactor } from './shrink-factor';
import type { SourceFrames } from './source-frames';

/** A reader that is at most this many frames before a wanted one goes on instead of starting anew. */
const READ_ON = 12;

interface Waiter {
  frame: number;
  resolve(sample: VideoSample): void;
  reject(error: unknown): void;
}

interface Reader {
  samples: AsyncGenerator<VideoSample, void, unknown>;
  /** The frame it yields next. */
  next: number;
  /** Frames in whose place it yields blanks. */
  blank: Set<number>;
}

/**
 * Hands over any frame of a source by its index.
 *
 * One decoder reads at a time. Frames asked for with `get` come first, then those announced with `prefetch`, in
 * order; between two frames it looks again what is wanted, so that a jump of the playhead need not wait for
 * what was wanted before.
 */
export class FrameServer implements SourceFrames {
  private readonly sink: VideoSampleSink;
  private readonly cache: FrameCache;
  private waiters: Waiter[] = [];
  private wanted: readonly number[] = [];
  private passing: { wanted: ReadonlySet<number>; direction: 1 | -1; last: number } | undefined;
  private reader: Reader | undefined;
  private running = false;
  private closed = false;
  /** By how much pictures are made smaller. */
  private factor = 1;
  /** The reader that is open is of no use any more. */
  private outdated = false;

  /** Between the decoder and the reader that is open. */
  private valve = new Valve(1);

  /**
   * @param size of its pictures, as they are shown
   * @param budget of decoded pictures to keep
   * @param colours that they have, whatever the file says; null for what it says
   * @param identity see `SourceFrames`
   */
  constructor(
    track: InputVideoTrack,
    private readonly index: FrameIndex,
    private readonly size: Size,
    budget: PictureBudget,
    private readonly colours: VideoColours | null = null,
    readonly identity: string | undefined = undefined,
  ) {
    installCopyingDecoder();
    putValve(track, () => this.valve);
    this.sink = new VideoSampleSink(track);
    this.cache = new FrameCache(budget);
  }

  get frames(): number {
    return this.index.timestamps.length;
  }

  peek(frame: number): VideoSample | undefined {
    return this.cache.get(frame);
  }

  get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    if (!(frame >= 0 && frame < this.frames)) {
      return Promise.reject(new RangeError(`frame ${frame} is outside 0…${this.frames - 1}`));
    }
    if (this.closed) return Promise.reject(new Error('the source was closed'));
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

  prefetch(frames: readonly number[], direction: 1 | -1, passing = false): void {
    this.wanted = frames;
    this.passing = undefined;
    if (passing && frames.length > 0) {
      const last = direction > 0 ? Math.max(...frames) : Math.min(...frames);
      this.passing = { wanted: new Set(frames), direction, last };
    }
    if (frames.length > 0) this.cache.aim(frames[0]!, direction);
    void this.run();
  }

  group(frame: number): { start: number; end: number } {
    return groupOf(this.index, frame);
  }

  fitTo(fit: Size | null): void {
    const factor = shrinkFactor(this.size, fit);
    if (factor === this.factor) return;
    this.factor = factor;
    this.cache.clear();
    // What is being decoded is of the size before.
    this.outdated = this.reader !== undefined;
  }

  rest(): void {
    this.wanted = [];
    this.cache.clear();
    // A decoder that nobody needs holds memory, and hardware has few of them.
    this.outdated = this.reader !== undefined;
    if (!this.running) void this.run();
  }

  async close(): Promise<void> {
    this.closed = true;
    this.wanted = [];
    for (const waiter of this.waiters.splice(0)) waiter.reject(new Error('the source was closed'));
    await this.stopReading();
    this.cache.clear();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      if (this.outdated) await this.stopReading();
      for (let frame = this.nextWanted(); frame !== undefined; frame = this.nextWanted()) {
        await this.readTowards(frame);
      }
    } catch (error) {
      for (const waiter of this.waiters.splice(0)) waiter.reject(error);
      this.wanted = [];
      await this.stopReading();
    } finally {
      this.running = false;
    }
  }

  private nextWanted(): number | undefined {
    if (this.closed) return undefined;
    return this.waiters[0]?.frame ?? this.wanted.find((frame) => !this.cache.has(frame));
  }

  /** Decodes one more frame on the way to `frame`. */
  private async readTowards(frame: number): Promise<void> {
    const group = groupOf(this.index, frame);
    if (this.outdated) await this.stopReading();
    const reader = this.reader;
    const onItsWay = reader && reader.next <= frame && (reader.next >= group.start || frame - reader.next <= READ_ON);
    if (!onItsWay) {
      await this.stopReading();
      const from = this.index.timestamps[group.start]!;
      const blank = new Set<number>();
      this.valve = new Valve(this.factor, from, (timestamp) => this.isWanted(timestamp, blank), this.colours);
      this.reader = { samples: this.sink.samples(from), next: group.start, blank };
    }
    const current = this.reader!;
    const { valve } = this;
    const { value, done } = await current.samples.next();
    if (value) valve.taken();
    if (done || !value) {
      await this.stopReading();
      throw new Error(`The source ended before frame ${frame}; the file may be damaged.`);
    }
    const at = frameAtTime(this.index, value.timestamp);
    current.next = at + 1;
    // Wanted meanwhile, perhaps: then it is read once more.
    if (current.blank.delete(at)) value.close();
    else this.deliver(at, value);
    if (at > frame) this.refuse(frame);
  }

  /** Whether a copy of what the decoder gives is to be made; beyond what was announced, it may be announced yet. */
  private isWanted(timestamp: number, blank: Set<number>): boolean {
    const { passing } = this;
    // Times are cut to whole microseconds on their way.
    const frame = frameAtTime(this.index, (timestamp + 1) / 1e6);
    const passed = passing && !passing.wanted.has(frame) && (passing.last - frame) * passing.direction > 0;
    if (!passed || this.waiters.some((waiter) => waiter.frame === frame)) return true;
    blank.add(frame);
    return false;
  }

  private deliver(frame: number, sample: VideoSample): void {
    if (this.closed) {
      sample.close();
      return;
    }
    const served = this.waiters.filter((waiter) => waiter.frame === frame);
    this.waiters = this.waiters.filter((waiter) => waiter.frame !== frame);
    for (const waiter of served) waiter.resolve(sample.clone());
    // Made for another size than is wanted by now: of use to whoever waited, and to nobody after.
    if (this.outdated) sample.close();
    else this.cache.put(frame, sample);
  }

  // The decoder skipped a frame that the index lists: its packet is damaged.
  private refuse(frame: number): void {
    const error = new Error(`Frame ${frame} can’t be decoded: the file is damaged there.`);
    for (const waiter of this.waiters.filter((one) => one.frame === frame)) waiter.reject(error);
    this.waiters = this.waiters.filter((waiter) => waiter.frame !== frame);
    this.wanted = this.wanted.filter((wanted) => wanted !== frame);
  }

  private async stopReading(): Promise<void> {
    const reader = this.reader;
    this.reader = undefined;
    this.outdated = false;
    await reader?.samples.return();
  }
}
