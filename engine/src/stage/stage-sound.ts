import type { Program } from '@hastig/core';
import { ProgramSound } from '../media/program-sound';
import { SourcePool, type SourceLocations } from '../media/source-pool';

/** Seconds of sound read before play starts, so that the first ones are not the slowest. */
const READY = 0.1;

/**
 * The sound of what is on a stage, in a worker of its own: retiming it takes as long as drawing some pictures, which must not
 * wait for it.
 */
export class StageSound {
  private readonly pool = new SourcePool();
  private program: Program | undefined;
  private sound: ProgramSound | undefined;

  /**
   * What is heard from now on.
   *
   * @param sources null where they are as before
   */
  async setProgram(program: Program, sources: SourceLocations | null): Promise<void> {
    this.program = program;
    this.sound = undefined;
    if (sources) await this.pool.locate(sources);
  }

  /** Opens what is heard from a moment on, in seconds. What cannot be opened is told of when it is seen. */
  async prepare(seconds: number, rate: number): Promise<void> {
    await this.read(Math.round(seconds * rate), Math.round(READY * rate), rate).catch(() => null);
  }

  /** Retimed sound, or null where nothing is heard; see `ProgramSound.read`. */
  async read(first: number, count: number, rate: number): Promise<Float32Array<ArrayBuffer>[] | null> {
    if (!this.program) return null;
    this.sound ??= new ProgramSound(this.program, this.pool);
    return this.sound.read(first, count, rate);
  }
}
