import type { MediaFacts, RetimeMap } from '@hastig/contract';
import { heldPlan, type PicturePlan } from '@hastig/core';
import type { MediaLocation } from '../media/open';
import { openSource, type OpenSource } from '../media/source';
import { clockPosition, wallTime, type PlayClock } from './clock';
import { PunctualityCount, type Punctuality } from './punctuality';

/** Output frames looked ahead while playing. */
const LOOK_AHEAD = 24;
/** Different source frames that must be decoded before playing starts. */
const PREROLL = 8;

/** What the stage tells the page. `frame` is an output frame. */
export interface StageEvents {
  /** A picture has been drawn. */
  frame(frame: number): void;
  /** Play has come to the end. */
  ended(): void;
  /** A source frame could not be had. */
  fault(message: string): void;
}

/**
 * The stage's side in the worker: draws the picture of an output frame on a canvas, at rest and while playing.
 * The clock comes from the page (from its sound); nothing here waits for the page while playing.
 */
export class StageWorker {
  private canvas: OffscreenCanvas | undefined;
  private source: OpenSource | undefined;
  private map: RetimeMap | undefined;
  private plan: PicturePlan | undefined;
  private clock: PlayClock | undefined;
  private loop = false;
  private resting = 0;
  private drawn = -1;
  private punctuality = new PunctualityCount();
  private events: StageEvents | undefined;
  private ticking = false;

  attach(canvas: OffscreenCanvas, events: StageEvents): void {
    this.canvas = canvas;
    this.events = events;
  }

  /** Opens another source; the picture stays until the first `show`. */
  async load(location: MediaLocation): Promise<MediaFacts> {
    const old = this.source;
    this.source = undefined;
    this.stop();
    await old?.close();
    this.source = await openSource(location);
    return this.source.media.facts;
  }

  /** The timing to show from now on; takes effect at once, also while playing. */
  setMap(map: RetimeMap): void {
    this.map = map;
    this.plan = heldPlan(map);
    this.drawn = -1;
    if (!this.clock) void this.show(this.resting);
  }

  /** Pixels of the drawing surface. */
  resize(width: number, height: number): void {
    if (!this.canvas || (this.canvas.width === width && this.canvas.height === height)) return;
    [this.canvas.width, this.canvas.height] = [width, height];
    this.drawn = -1;
    if (!this.clock) void this.show(this.resting);
  }

  /** Rests at an output frame. Of several calls in quick succession only the last need be drawn. */
  async show(frame: number): Promise<void> {
    this.clock = undefined;
    this.resting = frame;
    const { plan, source } = this;
    if (!plan || !source) return;
    const wanted = plan.frameAt(this.clamp(frame));
    // The neighbours too, so that stepping is immediate.
    source.frames.prefetch(
      [wanted, wanted + 1, wanted - 1].filter((one) => one >= 0 && one < source.frames.frames),
      1,
    );
    try {
      const sample = await source.frames.get(wanted);
      if (this.resting === frame && this.plan === plan && !this.clock) {
        this.draw(sample);
        this.drawn = frame;
        this.events?.frame(frame);
      }
      sample.close();
    } catch (error) {
      if (this.source === source) this.events?.fault((error as Error).message);
    }
  }

  /** Resolves when the pictures that follow `frame` are decoded, so that play can start without a hitch. */
  async preroll(frame: number): Promise<void> {
    const { plan, source } = this;
    if (!plan || !source) return;
    const ahead = this.framesAhead(plan, frame - 1, true);
    source.frames.prefetch(ahead, this.directionOf(ahead));
    for (const next of ahead.slice(0, PREROLL)) (await source.frames.get(next)).close();
  }

  play(clock: PlayClock, loop: boolean): void {
    this.clock = clock;
    this.loop = loop;
    this.drawn = -1;
    this.punctuality = new PunctualityCount();
    if (!this.ticking) this.tick();
  }

  /** Corrects the clock while playing. */
  adjust(clock: PlayClock): void {
    if (this.clock) this.clock = clock;
  }

  stop(): Punctuality {
    this.clock = undefined;
    return this.punctuality.result;
  }

  /** Retimed sound, or null where the source has none; see `SoundReader.read`. */
  async sound(first: number, count: number, outputRate: number): Promise<Float32Array[] | null> {
    if (!this.source?.sound || !this.map) return null;
    return this.source.sound.read(this.map, first, count, outputRate);
  }

  async close(): Promise<void> {
    this.stop();
    await this.source?.close();
    this.source = undefined;
  }

  private readonly tick = (): void => {
    this.ticking = this.clock !== undefined;
    if (!this.clock) return;
    self.requestAnimationFrame(this.tick);
    const { plan, source, clock } = this;
    if (!plan || !source) return;
    const now = wallTime();
    const position = clockPosition(clock, now);
    const turn = Math.floor(position);
    if (position < clock.frame) return;
    if (!this.loop && turn >= plan.count) {
      this.clock = undefined;
      this.resting = plan.count - 1;
      this.events?.ended();
      return;
    }
    if (turn === this.drawn) return;
    const frame = turn % plan.count;
    const ahead = this.framesAhead(plan, frame, this.loop);
    const wanted = plan.frameAt(frame);
    source.frames.prefetch([wanted, ...ahead], this.directionOf([wanted, ...ahead]));
    const sample = source.frames.peek(wanted);
    if (!sample) return;
    this.draw(sample);
    this.drawn = turn;
    this.resting = frame;
    this.punctuality.drawn(turn, now - (clock.at + ((turn - clock.frame) * 1000) / clock.rate));
    this.events?.frame(frame);
  };

  private draw(sample: {
    draw: (context: OffscreenCanvasRenderingContext2D, x: number, y: number, w: number, h: number) => void;
  }): void {
    const { canvas } = this;
    const context = canvas?.getContext('2d', { alpha: false, desynchronized: true });
    if (canvas && context) sample.draw(context, 0, 0, canvas.width, canvas.height);
  }

  private clamp(frame: number): number {
    return Math.min(Math.max(0, frame), (this.plan?.count ?? 1) - 1);
  }

  /** The different source frames of the output frames after `frame`, in order. */
  private framesAhead(plan: PicturePlan, frame: number, around: boolean): number[] {
    const ahead = new Set<number>();
    for (let step = 1; step <= LOOK_AHEAD; step++) {
      const next = frame + step;
      if (next >= plan.count && !around) break;
      ahead.add(plan.frameAt(((next % plan.count) + plan.count) % plan.count));
    }
    return [...ahead];
  }

  private directionOf(frames: readonly number[]): 1 | -1 {
    return frames.length > 1 && frames[1]! < frames[0]! ? -1 : 1;
  }
}
