import type { MediaFacts, RetimeMap } from '@hastig/contract';
import { compile, frameCount, rateToNumber } from '@hastig/core';
import { proxy, transfer } from 'comlink';
import type { MediaLocation } from '../media/open';
import { startWorker, type EngineHandle } from '../worker/handle';
import type { PlayClock } from './clock';
import type { Punctuality } from './punctuality';
import { SoundOutput } from './sound-output';

/** Milliseconds between two looks at how the sound's clock stands. */
const CLOCK_LOOK = 500;
/** Milliseconds by which the picture's clock is moved towards the sound's at one look: too little to be seen. */
const MOST_STEP = 4;
/**
 * Milliseconds by which sound and picture may be apart. A sound device drifts by parts in a million, so more means that it
 * was starved (a busy machine, no real device): then the sound is set anew, and the picture goes on.
 */
const MOST_DRIFT = 80;

/** What a stage tells whoever shows it. */
export interface StageListener {
  /** Output frame on the canvas now. */
  frame(frame: number): void;
  playing(playing: boolean): void;
  /** Something cannot be shown; for people. */
  fault(message: string): void;
}

/**
 * The stage as the page sees it: one canvas, one source, one timing. Pictures are decoded and drawn in a worker; the
 * page plays the sound and gives the clock.
 */
export class Stage {
  private readonly handle: EngineHandle;
  private readonly output: SoundOutput;
  private map: RetimeMap | undefined;
  private playing = false;
  private frame = 0;
  private clockTimer: ReturnType<typeof setInterval> | undefined;
  private clock: PlayClock | undefined;
  private starting = 0;

  constructor(
    canvas: HTMLCanvasElement,
    private readonly listener: StageListener,
  ) {
    this.handle = startWorker();
    this.output = new SoundOutput((first, count, rate) => this.handle.api.stageSound(first, count, rate));
    const offscreen = canvas.transferControlToOffscreen();
    void this.handle.api.stageAttach(
      transfer(offscreen, [offscreen]),
      proxy({
        frame: (frame) => {
          this.frame = frame;
          listener.frame(frame);
        },
        ended: () => {
          if (this.map) this.frame = frameCount(this.map) - 1;
          void this.pause();
        },
        fault: (message) => listener.fault(message),
      }),
    );
  }

  /** @throws RefusedMedia where the source cannot be shown here */
  async load(location: MediaLocation): Promise<MediaFacts> {
    await this.pause();
    return this.handle.api.stageLoad(location);
  }

  /** The timing to show; may change at any moment, also while playing. */
  setMap(map: RetimeMap): void {
    this.map = map;
    void this.handle.api.stageSetMap(map);
    if (this.playing) this.output.refresh(this.seconds(map));
  }

  resize(width: number, height: number): void {
    void this.handle.api.stageResize(width, height);
  }

  /** Goes to an output frame, and stays there. */
  async seek(frame: number): Promise<void> {
    if (this.playing) await this.pause();
    this.frame = frame;
    await this.handle.api.stageShow(frame);
  }

  /** Plays from an output frame on, until the end, or round and round. */
  async play(from: number, loop: boolean): Promise<void> {
    const { map } = this;
    if (!map) return;
    const mine = ++this.starting;
    this.playing = true;
    this.listener.playing(true);
    const frame = from >= frameCount(map) - 1 ? 0 : from;
    const rate = rateToNumber(map.outputRate);
    try {
      await this.handle.api.stagePreroll(frame);
      if (mine !== this.starting) return;
      const at = await this.output.start(frame / rate, this.seconds(map), loop);
      if (mine !== this.starting) return;
      this.clock = { at, frame, rate };
      await this.handle.api.stagePlay(this.clock, loop);
      this.clockTimer = setInterval(() => this.followSound(), CLOCK_LOOK);
    } catch (error) {
      await this.pause();
      this.listener.fault((error as Error).message);
    }
  }

  /** Stops where it is. */
  async pause(): Promise<Punctuality | undefined> {
    this.starting++;
    clearInterval(this.clockTimer);
    this.output.stop();
    if (!this.playing) return undefined;
    this.playing = false;
    this.listener.playing(false);
    this.listener.frame(this.frame);
    const punctuality = await this.handle.api.stageStop();
    // In the browser's own timeline, where benches and tests look for it.
    performance.mark('hastig:played', { detail: punctuality });
    await this.handle.api.stageShow(this.frame);
    return punctuality;
  }

  async close(): Promise<void> {
    this.starting++;
    clearInterval(this.clockTimer);
    await this.output.close();
    this.handle.end();
  }

  private seconds(map: RetimeMap): number {
    return compile(map).length / rateToNumber(map.outputRate);
  }

  private followSound(): void {
    const { clock } = this;
    if (!clock) return;
    const drift = this.output.startWallTime() - clock.at;
    if (Math.abs(drift) > MOST_DRIFT) {
      this.output.realign(clock.at);
    } else if (Math.abs(drift) > 1) {
      this.clock = { ...clock, at: clock.at + Math.max(-MOST_STEP, Math.min(MOST_STEP, drift)) };
      void this.handle.api.stageAdjust(this.clock);
    }
  }
}
