import type { SeenLeaf, SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourcePool } from '../media/source-pool';
import { laneLeaves } from './lanes';
import { meanOf } from './mean';

/** What sources give to one picture, decoded and exposed; whoever has it closes it. */
export class PictureSamples {
  private readonly samples = new Map<SeenLeaf, VideoSample>();

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
      for (const { lane, leaf } of laneLeaves(picture)) {
        const frames = (await pool.get(lane))[from];
        const made =
          'parts' in leaf
            ? meanOf(
                frames,
                leaf.parts.map(({ seen, weight }) => ({ frame: seen.frame, weight })),
                signal,
              )
            : frames.get(leaf.frame, signal);
        all.samples.set(leaf, await made);
      }
      return all;
    } catch (error) {
      all.close();
      throw error;
    }
  }

  /** What a leaf of the very picture shows. */
  readonly get = (leaf: SeenLeaf): VideoSample => this.samples.get(leaf)!;

  close(): void {
    for (const sample of this.samples.values()) sample.close();
    this.samples.clear();
  }
}
