import { Voices, type Program } from '@hastig/core';
import { ProgramSound } from '../media/program-sound';
import { SourcePool, type SourceLocations } from '../media/source-pool';
import { breathe } from '../worker/breathe';

/** Seconds of sound read before play starts, so that the first ones are not the slowest. */
const READY = 0.1;
/** Seconds ahead of what is read that sound with a pitch of its own is made. */
const AHEAD = 4;
/** Milliseconds that play waits at most for such sound before it starts. */
const PATIENCE = 350;
/** Seconds in which what is heard as tape gives way to what was made meanwhile. */
const TURN = 0.005;

/**
 * The sound of what is on a stage, in a worker of its own: retiming it takes as long as drawing some pictures, which must not
 * wait for it. What has a pitch of its own is made ahead of what is heard; what is not made yet is heard as tape.
 */
export class StageSound {
  private readonly pool = new SourcePool();
  private readonly voices = new Voices(breathe);
  private program: Program | undefined;
  private sound: ProgramSound | undefined;
  private making: Promise<void> | undefined;
  private wanted: { sound: ProgramSound; from: number } | undefined;
  /** Where the last piece ended, if not all of it was made. */
  private unmadeUpTo: number | undefined;

  /**
   * What is heard from now on.
   *
   * @param sources null where they are as before
   */
  async setProgram(program: Program, sources: SourceLocations | null): Promise<void> {
    this.program = program;
    this.sound = undefined;
    if (!sources) return;
    this.voices.forget();
    await this.pool.locate(sources);
  }

  /** Opens what is heard from a moment on, in seconds. What cannot be opened is told of when it is seen. */
  async prepare(seconds: number, rate: number): Promise<void> {
    const sound = this.opened();
    if (!sound) return;
    const late = new Promise<void>((done) => setTimeout(done, PATIENCE));
    await Promise.race([this.make(sound, seconds), late]);
    await this.read(Math.round(seconds * rate), Math.round(READY * rate), rate).catch(() => null);
  }

  /** Retimed sound, one array a channel, or null where nothing is heard. */
  async read(first: number, count: number, rate: number): Promise<Float32Array<ArrayBuffer>[] | null> {
    const sound = this.opened();
    if (!sound) return null;
    const { channels, whole } = await sound.read(first, count, rate, 'atOnce');
    const turns = whole && channels && this.unmadeUpTo === first;
    this.unmadeUpTo = whole ? undefined : first + count;
    if (turns) await takeTurns(sound, channels, first, rate);
    void this.make(sound, first / rate);
    return channels;
  }

  private opened(): ProgramSound | undefined {
    if (!this.program) return undefined;
    return (this.sound ??= new ProgramSound(this.program, this.pool, this.voices));
  }

  // One thing after the other, and only what is wanted last: while something is dragged, programs come faster than sound is made.
  private make(sound: ProgramSound, from: number): Promise<void> {
    this.wanted = { sound, from };
    this.making ??= this.makeWanted().finally(() => (this.making = undefined));
    return this.making;
  }

  private async makeWanted(): Promise<void> {
    while (this.wanted) {
      const { sound, from } = this.wanted;
      this.wanted = undefined;
      // What cannot be made is told of when it is read.
      if (sound === this.sound) await sound.makeReady(from, from + AHEAD).catch(() => undefined);
    }
  }
}

// What was heard as tape up to here goes on for a moment under what was made.
async function takeTurns(
  sound: ProgramSound,
  channels: readonly Float32Array[],
  first: number,
  rate: number,
): Promise<void> {
  const count = Math.min(channels[0]!.length, Math.round(TURN * rate));
  const { channels: tape } = await sound.read(first, count, rate, 'tape');
  for (const [side, samples] of (tape ?? []).entries()) {
    const made = channels[side]!;
    for (let n = 0; n < count; n++) made[n] = samples[n]! + (n / count) * (made[n]! - samples[n]!);
  }
}
