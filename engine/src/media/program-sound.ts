import { ProgramMix, Voices, type MixedSound, type Patience, type Program } from '@hastig/core';
import type { SourcePool } from './source-pool';

/** The sound of a program whose sources lie in a pool. */
export class ProgramSound {
  private readonly mix: ProgramMix;

  constructor(
    program: Program,
    private readonly pool: SourcePool,
    voices = new Voices(),
  ) {
    this.mix = new ProgramMix(program, async (id) => (await pool.get(id)).sound ?? undefined, voices);
  }

  /**
   * Output samples of the program.
   *
   * @param first output sample, counted from the program's start
   * @param rate output samples per second
   */
  read(first: number, count: number, rate: number, patience?: Patience): Promise<MixedSound> {
    return this.mix.read(first, count, rate, patience);
  }

  /** Makes ready what will be heard between two moments, in seconds. */
  makeReady(from: number, to: number): Promise<void> {
    return this.mix.makeReady(from, to);
  }

  /** Whether any of its sources has sound that can be decoded here. */
  async audible(): Promise<boolean> {
    for (const id of this.mix.sourceIds) {
      if ((await this.pool.get(id)).sound) return true;
    }
    return false;
  }
}
