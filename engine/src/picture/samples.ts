import { sameLeaf, type SeenLeaf, type SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourcePool } from '../media/source-pool';
import { laneLeaves } from './lanes';
import type { SourceFrames } from '../media/source-frames';
import { betweenFrames } from './between';
import { meanOf, type Place } from './mean';

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
        // What stands still in what moves is the same at every moment.
        const same = [...all.samples].find(([other]) => sameLeaf(other, leaf))?.[1];
        all.samples.set(leaf, same?.clone() ?? (await leafPicture(frames, leaf, signal)));
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

/** What a source gives to a picture: a frame, what is between two, or the mean of several. */
function leafPicture(frames: SourceFrames, leaf: SeenLeaf, signal?: AbortSignal): Promise<VideoSample> {
  const frameAt = ({ frame }: Place): Promise<VideoSample> => frames.get(frame, signal);
  const pictureAt = async ({ frame, share }: Place): Promise<VideoSample> => {
    if (share === undefined) return frames.get(frame, signal);
    const made = await betweenFrames(frames, frame, share, signal);
    if (made) return made;
    const parts = [
      { frame, weight: 1 - share },
      { frame: frame + 1, weight: share },
    ];
    return meanOf(frames, parts, frameAt);
  };
  if (!('parts' in leaf)) return pictureAt(leaf);
  const parts = leaf.parts.map(({ seen: { frame, share }, weight }) => ({
    ...{ frame, weight },
    ...(share !== undefined && { share }),
  }));
  return meanOf(frames, parts, pictureAt);
}
