import type { SeenFrame, SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourcePool } from '../media/source-pool';
import { lanesOf } from './lanes';

/** The decoded frames of one picture; whoever has it closes it. */
export class PictureSamples {
  private readonly samples = new Map<SeenFrame, VideoSample>();

  /**
   * Decodes what a picture is made of.
   *
   * @param from which frames of a source are taken: the ones at hand, or the file's own
   * @throws what opening a source or its decoder throws
   */
  static async of(
    pool: SourcePool,
    picture: SeenPicture,
    from: 'frames' | 'exact',
    signal?: AbortSignal,
  ): Promise<PictureSamples> {
    const all = new PictureSamples();
    try {
      for (const { lane, seen } of lanesOf(picture)) {
        const source = await pool.get(lane);
        all.samples.set(seen, await source[from].get(seen.frame, signal));
      }
      return all;
    } catch (error) {
      all.close();
      throw error;
    }
  }

  /** The decoded frame of a frame of the very picture. */
  readonly get = (seen: SeenFrame): VideoSample => this.samples.get(seen)!;

  close(): void {
    for (const sample of this.samples.values()) sample.close();
    this.samples.clear();
  }
}
