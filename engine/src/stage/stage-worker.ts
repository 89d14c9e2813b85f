import {
  enlargements,
  instantPlan,
  isExposed,
  mainFrame,
  picturePlan,
  samePicture,
  type PicturePlan,
  type Program,
  type SeenFrame,
  type SeenLeaf,
  type SeenPicture,
} from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { bytesForDevice } from '../media/picture-budget';
import type { OpenSource } from '../media/source';
import { SourcePool, type SourceLocations } from '../media/source-pool';
import { drawPicture } from '../picture/draw';
import { framesByDecoder, decodersOf } from '../picture/decoders';
import { MakerPool } from '../picture/makers/maker-pool';
import { PixelSheets, pixelsOf } from '../picture/pixels';
import { PictureSamples, Studio } from '../picture/samples';
import { clockPosition, wallTime, type PlayClock } from './clock';
import { FillAhead } from './fill-ahead';
import { lookedAt, type StageLook } from './look';
import { lookAhead, loopedFrame, preroll, type LoopRange } from './look-ahead';
import type { StageEvents } from './stage-events';
import { PunctualityCount, type Punctuality } from './punctuality';

/** Milliseconds for which a picture is still decoded when another is wanted already. */
const PATIENCE = 200;
/** Milliseconds that a frame of a proxy rests until it is shown as good as it is. */
const SHARPEN_AFTER = 150;

/** Workers in which pictures are made, so that the stage stays free for what one wants next. */
const STAGE_MAKERS = 1;

/** What is on the canvas, and whether it is as good as its files are, or taken from a copy. */
interface Painted {
  picture: SeenPicture;
  exact: boolean;
}

/** Whether a source's frames at hand are its file's own. */
const isExact = ({ exact, frames }: OpenSource): boolean => exact === frames;

/**
 * The stage's side in the worker: draws the picture of an output frame on a canvas, at rest and while playing.
 * The clock comes from the page (from its sound); nothing here waits for the page while playing.
 */
export class StageWorker {
  private canvas: OffscreenCanvas | undefined;
  private readonly pool = new SourcePool();
  private readonly studio = new Studio(this.pool, new MakerPool(STAGE_MAKERS));
  /** What is shown at rest, and what is shown while playing: instants, which are there as soon as they are decoded. */
  private plan: PicturePlan | undefined;
  private moving: PicturePlan | undefined;
  private program: Program | undefined;
  private clock: PlayClock | undefined;
  private loop: LoopRange | null = null;
  private resting = 0;
  private drawn = -1;
  /** The picture that is being decoded to rest at, and the way to give it up. */
  private seeking: { stop: AbortController; done: Promise<void> } | undefined;
  /** Takes back the wish for a frame of the file in place of its copy's. */
  private sharpening: AbortController | undefined;
  /** Undefined where what is on the canvas is not known. */
  private painted: Painted | undefined;
  private punctuality = new PunctualityCount();
  private events: StageEvents | undefined;
  private ticking = false;
  private readonly sheets = new PixelSheets();
  private readonly ahead = new FillAhead(this.studio, bytesForDevice() / 2, (ranges) => this.events?.ready(ranges));
  private drafting = false;
  private look: StageLook = { kind: 'made' };
  /** A picture that is due is being brought to pixels. */
  private painting = false;

  attach(canvas: OffscreenCanvas, events: StageEvents): void {
    this.canvas = canvas;
    this.events = events;
  }

  /**
   * What to show from now on, and where its sources are; takes effect at once, also while playing.
   *
   * @param sources null where they are as before
   */
  async setProgram(program: Program, sources: SourceLocations | null): Promise<void> {
    const [before, now] = [this.program?.frame, program.frame];
    if (before?.width !== now?.width || before?.height !== now?.height) this.painted = undefined;
    this.program = program;
    this.studio.follow(program);
    this.plan = picturePlan(program);
    this.moving = isExposed(program) ? instantPlan(program) : this.plan;
    this.drawn = -1;
    this.fit();
    if (sources) this.ahead.clear();
    else this.ahead.keepFor(this.plan);
    if (sources) {
      this.painted = undefined;
      this.studio.forget();
      await this.pool.locate(sources);
    }
    if (!this.clock && this.program === program) await this.show(this.resting);
  }

  /** Pixels of the drawing surface. */
  resize(width: number, height: number): void {
    if (!this.canvas || (this.canvas.width === width && this.canvas.height === height)) return;
    [this.canvas.width, this.canvas.height] = [width, height];
    this.drawn = -1;
    this.painted = undefined;
    this.ahead.clear();
    this.fit();
    if (!this.clock) void this.show(this.resting);
  }

  /** How the picture at rest is looked at from now on. */
  async setLook(look: StageLook): Promise<void> {
    this.look = look;
    this.painted = undefined;
    if (!this.clock) await this.show(this.resting);
  }

  // Pictures need not be larger than they are drawn.
  private fit(): void {
    const { canvas, program } = this;
    if (!canvas || !program) return;
    const larger = enlargements(program);
    this.pool.fitTo((sourceId) => {
      const times = larger.of(sourceId);
      return { width: canvas.width * times, height: canvas.height * times };
    });
  }

  /**
   * Rests at an output frame. Of several calls in quick succession those in between need not be drawn; one that is being
   * decoded when the next comes is given a little time, so that something is seen while one drags.
   */
  async show(frame: number): Promise<void> {
    this.clock = undefined;
    this.resting = frame;
    this.ahead.stop();
    this.tellDraft(false);
    const { plan } = this;
    if (!plan) return;
    const current = (): boolean => this.resting === frame && this.plan === plan && !this.clock;
    this.sharpening?.abort();
    const before = this.seeking;
    const patience = setTimeout(() => before?.stop.abort(), PATIENCE);
    const stop = new AbortController();
    const done = (before?.done ?? Promise.resolve()).then(() => {
      clearTimeout(patience);
      return current() ? this.showNow(frame, plan, current, stop.signal) : undefined;
    });
    this.seeking = { stop, done };
    await done;
  }

  private async showNow(frame: number, plan: PicturePlan, current: () => boolean, signal: AbortSignal): Promise<void> {
    const { look } = this;
    const instant = this.moving!.at(this.clamp(frame));
    const picture = look.kind === 'before' ? instant : plan.at(this.clamp(frame));
    const shown = (painted: Painted): void => {
      // What is looked at in another way is not what it would be taken for.
      this.painted = look.kind === 'made' ? painted : undefined;
      this.drawn = frame;
      this.events?.frame(frame);
      this.fillAhead(frame);
    };
    // A program that shows the same picture here, as while something else of it is dragged.
    if (this.painted?.exact && samePicture(this.painted.picture, picture)) return shown(this.painted);
    try {
      // What is made takes its time: what stands there is seen meanwhile.
      if (this.drawn !== frame && !samePicture(instant, picture))
        await this.showMeanwhile(instant, plan, current, signal);
      const decoders = decodersOf(picture);
      const sources = await Promise.all(decoders.map(({ decoder }) => this.pool.get(decoder)));
      if (!current()) return;
      // The neighbours too, so that stepping is immediate.
      const near = decoders.flatMap(({ decoder, seen }, index) =>
        [seen.frame, seen.frame + 1, seen.frame - 1]
          .filter((one) => one >= 0 && one < sources[index]!.frames.frames)
          .map((one) => ({ decoder, seen: { ...seen, frame: one } })),
      );
      this.pool.prefetch(framesByDecoder([near]));
      const started = performance.now();
      const samples = await PictureSamples.of(this.studio, picture, 'frames', signal);
      const milliseconds = performance.now() - started;
      try {
        const over = await lookedAt(this.studio, this.sheets, this.program!, look, { picture, instant }, signal);
        // Also what was overtaken meanwhile: something is seen of what one drags over.
        await this.draw(picture, samples.get, () => this.plan === plan && !this.clock, over.draw);
        over.close();
      } finally {
        // What else is looked at may fail, or be given up: what was decoded is given back all the same.
        samples.close();
      }
      if (!current()) this.painted = undefined;
      else {
        const exact = sources.every(isExact);
        if (!samePicture(instant, picture))
          this.events?.made({ frame, milliseconds, doubt: samples.doubt ?? null, ...samples.costs });
        shown({ picture, exact });
        // Not waited for: what comes next need not wait either.
        if (!exact && look.kind === 'made') void this.sharpen(picture, current);
      }
    } catch (error) {
      if (current() && !signal.aborted) this.events?.fault((error as Error).message);
    }
  }

  private contextOf(canvas: OffscreenCanvas): OffscreenCanvasRenderingContext2D | undefined {
    return canvas.getContext('2d', { alpha: false, desynchronized: true }) ?? undefined;
  }

  /** Makes what would be played from here, once there is time. */
  private fillAhead(from: number): void {
    const { plan, moving, program, canvas, loop } = this;
    if (!plan || !moving || plan === moving || !program || !canvas) return;
    const { width, height } = canvas;
    this.ahead.begin({ plan, moving, program, size: { width, height }, from: this.clamp(from), loop });
  }

  private tellDraft(on: boolean): void {
    if (on === this.drafting) return;
    this.drafting = on;
    this.events?.draft(on);
  }

  private async showMeanwhile(
    picture: SeenPicture,
    plan: PicturePlan,
    current: () => boolean,
    signal: AbortSignal,
  ): Promise<void> {
    const samples = await PictureSamples.of(this.studio, picture, 'frames', signal);
    const drawn = await this.draw(picture, samples.get, () => this.plan === plan && !this.clock);
    samples.close();
    if (drawn && current()) this.painted = { picture, exact: false };
  }

  /** Once pictures of a copy have been looked at for a moment, shows them as good as they are. */
  private async sharpen(picture: SeenPicture, current: () => boolean): Promise<void> {
    const stop = new AbortController();
    this.sharpening = stop;
    await new Promise((resolve) => setTimeout(resolve, SHARPEN_AFTER));
    if (!current()) return;
    // A copy was good enough so far; why the file is not is told when it is rendered.
    const samples = await PictureSamples.of(this.studio, picture, 'exact', stop.signal).catch(() => undefined);
    if (samples && (await this.draw(picture, samples.get, current))) this.painted = { picture, exact: true };
    samples?.close();
  }

  /** Resolves when the pictures from `frame` on are decoded, so that play can start without a hitch. */
  async preroll(frame: number): Promise<void> {
    const { moving } = this;
    if (!moving) return;
    this.seeking?.stop.abort();
    this.sharpening?.abort();
    this.ahead.stop();
    await preroll(this.pool, moving, frame);
  }

  /**
   * @param clock where that moment has passed already, as on a machine that was held up, play begins now and no frame is lost
   * @param loop output frames to go round in, `to` not included; null to play to the end
   * @returns the moment at which the clock starts
   */
  play(clock: PlayClock, loop: LoopRange | null): number {
    const at = Math.max(clock.at, wallTime());
    this.clock = { ...clock, at };
    this.loop = loop;
    this.drawn = -1;
    this.punctuality = new PunctualityCount(Math.floor(clock.frame), clock.rate < 0 ? -1 : 1);
    if (!this.ticking) this.tick();
    return at;
  }

  /** Corrects the clock while playing. */
  adjust(clock: PlayClock): void {
    if (this.clock) this.clock = clock;
  }

  stop(): Punctuality {
    this.clock = undefined;
    return this.punctuality.result;
  }

  async close(): Promise<void> {
    this.stop();
    this.ahead.clear();
    await this.studio.close();
  }

  private readonly tick = (): void => {
    this.ticking = this.clock !== undefined;
    if (!this.clock) return;
    self.requestAnimationFrame(this.tick);
    const { moving: plan, clock } = this;
    if (!plan) return;
    const now = wallTime();
    const position = clockPosition(clock, now);
    const turn = Math.floor(position);
    const way = clock.rate < 0 ? -1 : 1;
    if ((position - clock.frame) * way < 0) return;
    if (!this.loop && (turn >= plan.count || turn < 0)) {
      this.clock = undefined;
      this.resting = way < 0 ? 0 : plan.count - 1;
      this.events?.ended();
      return;
    }
    if (turn === this.drawn || this.painting) return;
    const frame = loopedFrame(turn, plan.count, this.loop);
    const made = this.ahead.get(frame);
    const picture = made ? this.plan!.at(frame) : plan.at(frame);
    lookAhead(this.pool, plan, frame, this.loop, way);
    // One count for each play; the clock is corrected meanwhile.
    const count = this.punctuality;
    const shown = (): void => {
      this.drawn = turn;
      this.resting = frame;
      this.punctuality.drawn(turn, wallTime() - (clock.at + ((turn - clock.frame) * 1000) / clock.rate));
      this.events?.frame(frame);
    };
    const current = (): boolean => this.moving === plan && this.clock !== undefined && this.punctuality === count;
    if (this.plan !== plan) this.tellDraft(!made && !samePicture(this.plan!.at(frame), picture));
    if (this.painted && samePicture(this.painted.picture, picture)) shown();
    else if (made) void this.paintMade(made, picture, current, shown);
    else void this.paintReady(picture, current, shown);
  };

  /** Draws a picture that was made ahead. */
  private async paintMade(
    sample: VideoSample,
    picture: SeenPicture,
    current: () => boolean,
    shown: () => void,
  ): Promise<void> {
    this.painting = true;
    try {
      const pixels = await this.sheets.of(sample);
      const context = current() && this.canvas ? this.contextOf(this.canvas) : undefined;
      if (context) pixels.draw(context, 0, 0, context.canvas.width, context.canvas.height);
      pixels.close();
      if (!context) return;
      this.painted = { picture, exact: true };
      shown();
    } finally {
      this.painting = false;
    }
  }

  /** Draws a picture if its frames are decoded. */
  private async paintReady(picture: SeenPicture, current: () => boolean, shown: () => void): Promise<void> {
    const decoders = decodersOf(picture);
    const ready = new Map<SeenFrame, VideoSample>();
    for (const { decoder, seen } of decoders) {
      const sample = this.pool.ready(decoder)?.frames.peek(seen.frame);
      if (!sample) return;
      ready.set(seen, sample);
    }
    const exact = decoders.every(({ decoder }) => isExact(this.pool.ready(decoder)!));
    this.painting = true;
    try {
      if (!(await this.draw(picture, (leaf) => ready.get(mainFrame(leaf))!, current))) return;
      this.painted = { picture, exact };
      shown();
    } finally {
      this.painting = false;
    }
  }

  /**
   * @param sampleOf what sources give; it may be lent
   * @param current whether the picture is still to be drawn once it is made of pixels
   * @param over what is drawn over it
   * @returns whether it was drawn
   */
  private async draw(
    picture: SeenPicture,
    sampleOf: (leaf: SeenLeaf) => VideoSample,
    current: () => boolean,
    over?: (context: OffscreenCanvasRenderingContext2D) => void,
  ): Promise<boolean> {
    const pixels = await pixelsOf(this.sheets, picture, sampleOf);
    const context = current() && this.canvas ? this.contextOf(this.canvas) : undefined;
    if (context && this.program) {
      drawPicture(context, picture, this.program, pixels.get);
      over?.(context);
    }
    pixels.close();
    return !!context;
  }

  private clamp(frame: number): number {
    return Math.min(Math.max(0, frame), (this.plan?.count ?? 1) - 1);
  }
}
