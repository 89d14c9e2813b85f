import { heardAt } from './heard-at';
import { LevelWatch, type Levels } from './level-watch';

/** Seconds of sound made ready ahead of what is heard. */
const AHEAD = 0.5;
/** Seconds in one piece. */
const PIECE = 0.1;
/** Seconds between asking for sound and hearing it first. */
const LEAD = 0.12;
/** Milliseconds between two looks whether more is needed. */
const LOOK = 40;

/** Where sound comes from: output samples counted from the clip's start; null for a silent clip. */
export type ReadSound = (first: number, count: number, rate: number) => Promise<Float32Array[] | null>;

/**
 * Plays retimed sound piece after piece, each placed to the sample on the audio clock, and says how that clock
 * stands to the wall clock.
 */
export class SoundOutput {
  private context: AudioContext | undefined;
  private playing: { source: AudioBufferSourceNode; at: number; until: number }[] = [];
  private run = 0;
  private timer: ReturnType<typeof setInterval> | undefined;
  /** Time of the context at which `startedSample` is heard. */
  private startedAt = 0;
  private startedSample = 0;
  /** The sample that `start` began with. */
  private originSample = 0;
  private nextSample = 0;
  private reading = false;
  private total = 0;
  private readonly levels = new LevelWatch();
  /** Samples that play goes round in. */
  private loop: { from: number; to: number } | null = null;

  constructor(private readonly read: ReadSound) {}

  /**
   * Starts playing.
   *
   * @param seconds from the clip's start
   * @param length of what is played, in seconds
   * @param loop seconds to go round in, or null to play to the end
   * @returns wall time (ms) at which that moment will be heard
   */
  async start(seconds: number, length: number, loop: { from: number; to: number } | null): Promise<number> {
    this.stop();
    this.context ??= new AudioContext({ latencyHint: 'interactive' });
    if (this.context.state === 'suspended') await this.context.resume();
    const { sampleRate, currentTime } = this.context;
    this.total = Math.round(length * sampleRate);
    this.loop = loop && { from: Math.round(loop.from * sampleRate), to: Math.round(loop.to * sampleRate) };
    this.startedSample = Math.round(seconds * sampleRate);
    this.originSample = this.startedSample;
    this.nextSample = this.startedSample;
    this.startedAt = currentTime + LEAD;
    this.timer = setInterval(() => void this.fill(), LOOK);
    void this.fill();
    return this.wallTimeOf(this.startedAt);
  }

  /** Wall time (ms) at which this run would have begun, going by what is heard now. */
  startWallTime(): number {
    const { sampleRate } = this.context!;
    return this.wallTimeOf(this.startedAt) - ((this.startedSample - this.originSample) / sampleRate) * 1000;
  }

  /** The timing has changed: what is not heard yet is made anew. */
  refresh(length: number): void {
    const { context } = this;
    if (!context || !this.timer) return;
    this.total = Math.round(length * context.sampleRate);
    const cut = this.cutAhead(context);
    if (cut !== undefined) this.nextSample = this.sampleAt(context, cut);
    void this.fill();
  }

  /** Sets the sound anew so that the run began at a wall time (ms): what was lost meanwhile is left out. */
  realign(startWall: number): void {
    const { context } = this;
    if (!context || !this.timer) return;
    const cut = this.cutAhead(context) ?? context.currentTime + LEAD;
    const elapsed = (this.wallTimeOf(cut) - startWall) / 1000;
    this.startedAt = cut;
    this.startedSample = Math.max(0, this.originSample + Math.round(elapsed * context.sampleRate));
    this.nextSample = this.startedSample;
    void this.fill();
  }

  /** Takes back what is not heard soon. Gives the context time at which sound is missing now, if any was taken. */
  private cutAhead(context: AudioContext): number | undefined {
    this.run++;
    this.reading = false;
    // What is heard within the next moments stays, so that no gap is heard; what goes on past them ends there, for a change is to
    // be heard at once and not after the piece.
    const cut = context.currentTime + LEAD / 2;
    const late = this.playing.filter(({ until }) => until > cut);
    for (const { source, at } of late) source.stop(Math.max(at, cut));
    this.levels.cut(cut);
    this.playing = this.playing.filter(({ at }) => at < cut);
    return late.length > 0 ? Math.max(cut, Math.min(...late.map(({ at }) => at))) : undefined;
  }

  /** How loud it is now. */
  levelsNow(): Levels {
    return this.context && this.timer ? this.levels.at(this.context.currentTime) : [0, 0];
  }

  private sampleAt(context: AudioContext, time: number): number {
    return this.startedSample + Math.round((time - this.startedAt) * context.sampleRate);
  }

  stop(): void {
    this.run++;
    this.reading = false;
    clearInterval(this.timer);
    this.timer = undefined;
    for (const { source } of this.playing.splice(0)) source.stop();
    this.levels.cut(-Infinity);
  }

  async close(): Promise<void> {
    this.stop();
    await this.context?.close();
    this.context = undefined;
  }

  private wallTimeOf(time: number): number {
    return heardAt(this.context!, time);
  }

  private async fill(): Promise<void> {
    const { context, run } = this;
    if (!context || this.reading || !this.timer) return;
    this.reading = true;
    try {
      while (run === this.run) {
        const at = this.startedAt + (this.nextSample - this.startedSample) / context.sampleRate;
        if (at > context.currentTime + AHEAD) break;
        if (!this.loop && this.nextSample >= this.total) break;
        await this.playPiece(context, run, at);
      }
    } finally {
      if (run === this.run) this.reading = false;
    }
  }

  private async playPiece(context: AudioContext, run: number, at: number): Promise<void> {
    const { loop, nextSample } = this;
    const around = loop && nextSample >= loop.to;
    const first = around ? loop.from + ((nextSample - loop.from) % Math.max(1, loop.to - loop.from)) : nextSample;
    const count = Math.max(1, Math.min(Math.round(PIECE * context.sampleRate), (loop?.to ?? this.total) - first));
    const samples = await this.read(first, count, context.sampleRate);
    if (run !== this.run) return;
    this.nextSample += count;
    if (!samples || samples.length === 0) return;
    const buffer = context.createBuffer(samples.length, count, context.sampleRate);
    samples.forEach((channel, index) => buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, index));
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    // A piece that came too late is left out up to now, so that the rest stays in time.
    const missed = Math.max(0, context.currentTime - at);
    if (missed >= buffer.duration) return;
    source.start(at + missed, missed);
    this.levels.add(at, samples, context.sampleRate);
    const entry = { source, at, until: at + buffer.duration };
    this.playing.push(entry);
    source.onended = () => (this.playing = this.playing.filter((one) => one !== entry));
  }
}
