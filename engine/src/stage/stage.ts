import { programFrames, programUpdate, rateToNumber, type Program } from '@hastig/core';
import { proxy, transfer } from 'comlink';
import type { SourceLocations } from '../media/source-pool';
import { startWorker, type EngineHandle } from '../worker/handle';
import { clockPosition, wallTime, type PlayClock } from './clock';
import { withClicks, type Clicks } from './clicks';
import type { StageLook } from './look';
import type { Punctuality } from './punctuality';
import type { ReadyRange } from './ready-pictures';
import { shuttledSeconds, shuttledSound, type Shuttle } from './shuttled-sound';
import type { Levels } from './level-watch';
import { OffsetWatch } from './sound-offset';
import { SoundOutput, type ReadSound } from './sound-output';
import type { MadePicture } from './stage-events';

/** Milliseconds between two looks at how the sound's clock stands. */
const CLOCK_LOOK = 500;
/** Milliseconds by which the picture's clock is moved towards the sound's at one look: too little to be seen. */
const MOST_STEP = 4;
/**
 * Milliseconds by which sound and picture may be apart. A sound device drifts by parts in a million, so more means that it
 * was starved (a busy machine, no real device): then the sound is set anew, and the picture goes on.
 */
const MOST_DRIFT = 80;

/** Times a worker is started anew in one stage; one that breaks down more often will go on doing so. */
const MOST_BREAKDOWNS = 3;

/** Samples a second for which the sound is made ready: near enough to any device's. */
const PREPARE_RATE = 48_000;

/** What a stage tells whoever shows it. */
interface StageListener {
  /** Output frame on the canvas now. */
  frame(frame: number): void;
  playing(playing: boolean): void;
  /** Something cannot be shown; for people. */
  fault(message: string): void;
  /** The picture at rest was made of several frames: what it took. */
  made(made: MadePicture): void;
  /** Output frames whose pictures are made, so that they play as they are at rest. */
  ready(ranges: readonly ReadyRange[]): void;
  /** Whether what plays now is shown as instants, for it is not made yet. */
  draft(on: boolean): void;
  /** Its pictures' worker broke down and took the canvas with it: the stage is of no use any more, and another one may be made. */
  broken(): void;
}

/** Output frames that play goes round in; `to` is not played. */
interface PlayRange {
  from: number;
  to: number;
}

/**
 * The stage as the page sees it: one canvas and one program on it. Pictures are decoded and drawn in a worker, sound is
 * retimed in another; the page plays it and gives the clock.
 */
export class Stage {
  private readonly handle: EngineHandle;
  private sound: EngineHandle;
  private breakdowns = 0;
  private closed = false;
  private readonly output: SoundOutput;
  private program: Program | undefined;
  private sources: SourceLocations | undefined;
  /** What the sound's worker has. */
  private soundHas: { program: Program; sources: SourceLocations } | undefined;
  private playing = false;
  private frame = 0;
  private clockTimer: ReturnType<typeof setInterval> | undefined;
  private clock: PlayClock | undefined;
  private starting = 0;
  private backwards = false;
  /** While play goes at another speed than its own. */
  private shuttle: Shuttle | null = null;
  private clicks: Clicks | null = null;
  private readonly offsets = new OffsetWatch();
  /** The frame that play began with. */
  private first = 0;

  constructor(
    canvas: HTMLCanvasElement,
    private readonly listener: StageListener,
  ) {
    this.handle = startWorker();
    this.handle.onBreakdown(() => this.broke());
    this.sound = this.startSoundWorker();
    const heard: ReadSound = (first, count, rate) => this.sound.api.soundRead(first, count, rate);
    const read = withClicks(heard, () => this.clicks);
    this.output = new SoundOutput((first, count, rate) =>
      (this.shuttle ? shuttledSound(read, this.shuttle) : read)(first, count, rate),
    );
    const offscreen = canvas.transferControlToOffscreen();
    void this.handle.api.stageAttach(
      transfer(offscreen, [offscreen]),
      proxy({
        frame: (frame) => this.drawn(frame),
        ended: () => {
          if (this.program) this.frame = this.backwards ? 0 : programFrames(this.program) - 1;
          void this.pause();
        },
        fault: (message) => listener.fault(message),
        made: (made) => listener.made(made),
        ready: (ranges) => listener.ready(ranges),
        draft: (on) => listener.draft(on),
      }),
    );
  }

  private startSoundWorker(): EngineHandle {
    const handle = startWorker();
    handle.onBreakdown(() => this.soundBroke(handle));
    return handle;
  }

  // Whatever waits for a picture waits for ever: play is over.
  private broke(): void {
    if (this.closed) return;
    this.starting++;
    clearInterval(this.clockTimer);
    this.clock = undefined;
    this.output.stop();
    if (this.playing) this.listener.playing(false);
    this.playing = false;
    this.listener.broken();
  }

  // The sound is made anew by another worker, from where play is the next time; one that goes on breaking down is left alone.
  private soundBroke(handle: EngineHandle): void {
    if (this.closed || handle !== this.sound) return;
    handle.end();
    this.soundHas = undefined;
    this.starting++;
    this.output.stop();
    if (++this.breakdowns <= MOST_BREAKDOWNS) this.sound = this.startSoundWorker();
    const goesOn = this.breakdowns <= MOST_BREAKDOWNS ? 'Play again.' : 'Reload the page.';
    this.listener.fault(`The sound crashed and was stopped. ${goesOn}`);
    void this.pause();
  }

  /** What to show, and where its sources are; may change at any moment, also while playing. */
  setProgram(program: Program, sources: SourceLocations): void {
    const update = programUpdate(this.program, program);
    void this.handle.api.stageSetProgram(update, sources === this.sources ? null : sources);
    [this.program, this.sources] = [program, sources];
    if (!this.playing) return;
    this.updateSound();
    this.output.refresh(this.heardSeconds(program));
  }

  // Only what is played is heard: while something is dragged, a program comes with every animation frame.
  private updateSound(): void {
    const { program, sources, soundHas } = this;
    if (!program || !sources || (soundHas?.program === program && soundHas.sources === sources)) return;
    void this.sound.api.soundSetProgram(
      programUpdate(soundHas?.program, program),
      soundHas?.sources === sources ? null : sources,
    );
    this.soundHas = { program, sources };
  }

  /** Clicks that are heard while it plays, or none. */
  setClicks(clicks: Clicks | null): void {
    this.clicks = clicks;
    if (this.playing && this.program) this.output.refresh(this.heardSeconds(this.program));
  }

  /** The output frame (real) that is seen and heard at a wall time (ms); undefined while it does not play. */
  frameAt(wall: number): number | undefined {
    return this.clock && clockPosition(this.clock, wall);
  }

  /** How loud it is now: the highest sample of left and right, as factors of full scale. */
  levels(): Levels {
    return this.output.levelsNow();
  }

  /** How the picture at rest is looked at. */
  setLook(look: StageLook): void {
    void this.handle.api.stageLook(look);
  }

  resize(width: number, height: number): void {
    void this.handle.api.stageResize(width, height);
  }

  /** Goes to an output frame, and stays there. */
  async seek(frame: number): Promise<void> {
    // Before anything is waited for: what is reported from now on belongs to this frame.
    this.frame = frame;
    if (this.playing) await this.pause();
    else await this.handle.api.stageShow(frame);
  }

  /**
   * Plays from an output frame on, until the end, or round and round in a range.
   *
   * @param speed of the playing itself: 1 as it will be seen, 2 twice as fast, −1 backwards; the pitch of the sound goes with it
   */
  async play(from: number, loop: PlayRange | null, speed = 1): Promise<void> {
    const { program } = this;
    if (!program) return;
    const mine = ++this.starting;
    this.playing = true;
    this.backwards = speed < 0;
    this.listener.playing(true);
    const last = programFrames(program) - 1;
    const range = loop && loop.to > loop.from ? loop : null;
    const outside = range ? from < range.from || from >= range.to : from >= last;
    const frame = speed < 0 ? (from <= 0 ? last : from) : outside ? (range?.from ?? 0) : from;
    const rate = rateToNumber(program.rate);
    try {
      clearInterval(this.clockTimer);
      this.output.stop();
      this.shuttle = speed === 1 ? null : { from: frame / rate, speed };
      this.updateSound();
      await Promise.all([this.handle.api.stagePreroll(frame), this.sound.api.soundPrepare(frame / rate, PREPARE_RATE)]);
      if (mine !== this.starting) return;
      const at = await this.startSound(frame, range, program);
      if (mine !== this.starting) return;
      const clock = { at, frame, rate: rate * speed };
      this.clock = clock;
      const started = await this.handle.api.stagePlay(clock, speed === 1 ? range : null);
      if (mine !== this.starting) return;
      this.clock = { ...clock, at: started };
      this.first = frame;
      this.offsets.begin();
      this.clockTimer = setInterval(() => this.followSound(), CLOCK_LOOK);
    } catch (error) {
      await this.pause();
      this.listener.fault((error as Error).message);
    }
  }

  private startSound(frame: number, range: PlayRange | null, program: Program): Promise<number> {
    if (this.shuttle) return this.output.start(0, this.heardSeconds(program), null);
    const rate = rateToNumber(program.rate);
    const loop = range && { from: range.from / rate, to: range.to / rate };
    return this.output.start(frame / rate, this.seconds(program), loop);
  }

  /** Stops where it is. */
  async pause(): Promise<Punctuality | undefined> {
    this.starting++;
    clearInterval(this.clockTimer);
    this.clock = undefined;
    this.output.stop();
    if (!this.playing) return undefined;
    this.playing = false;
    this.listener.playing(false);
    this.listener.frame(this.frame);
    const punctuality = await this.handle.api.stageStop();
    // In the browser's own timeline, where benches and tests look for it.
    performance.mark('hastig:played', { detail: { ...punctuality, sound: this.offsets.figures() } });
    await this.handle.api.stageShow(this.frame);
    return punctuality;
  }

  async close(): Promise<void> {
    this.closed = true;
    this.starting++;
    clearInterval(this.clockTimer);
    await this.output.close();
    this.handle.end();
    this.sound.end();
  }

  // At rest, a picture that was asked for before a jump may be drawn after it; the frame on the stage is the last one asked for.
  private drawn(frame: number): void {
    if (!this.clock && frame !== this.frame) return;
    this.frame = frame;
    this.compareWithSound(frame);
    this.listener.frame(frame);
  }

  // Only where pictures and sound run straight on from where play began.
  private compareWithSound(frame: number): void {
    const { clock, program, first } = this;
    if (!clock || !program || this.shuttle || frame < first) return;
    const heard = this.output.startWallTime() + ((frame - first) * 1000) / rateToNumber(program.rate);
    this.offsets.saw(wallTime(), heard);
  }

  private seconds(program: Program): number {
    return program.length / rateToNumber(program.rate);
  }

  private heardSeconds(program: Program): number {
    const seconds = this.seconds(program);
    return this.shuttle ? shuttledSeconds(this.shuttle, seconds) : seconds;
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
