import { soundPieces, soundRuns, type Program, type SoundRun } from '@hastig/core';
import type { SourcePool } from './source-pool';

/** Channels of all sound that is played or written. */
const CHANNELS = 2;

/** The sound of a program: all that is heard at once, mixed. */
export class ProgramSound {
  private readonly runs: readonly SoundRun[];

  constructor(
    program: Program,
    private readonly pool: SourcePool,
  ) {
    this.runs = soundRuns(program);
  }

  /**
   * Output samples of the program.
   *
   * @param first output sample, counted from the program's start
   * @param rate output samples per second
   * @returns one array a channel; null where nothing is heard
   */
  async read(first: number, count: number, rate: number): Promise<Float32Array<ArrayBuffer>[] | null> {
    const pieces = soundPieces(this.runs, rate, first, count);
    if (pieces.length === 0) return null;
    const out = Array.from({ length: CHANNELS }, () => new Float32Array(count));
    for (const piece of pieces) {
      const { sound } = await this.pool.get(piece.run.sourceId);
      await sound?.add(piece, rate, out, first);
    }
    return out;
  }

  /** Whether any of its sources has sound that can be decoded here. */
  async audible(): Promise<boolean> {
    for (const id of new Set(this.runs.map(({ sourceId }) => sourceId))) {
      if ((await this.pool.get(id)).sound) return true;
    }
    return false;
  }
}
