import { sameLeaf, type SeenLeaf, type SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourcePool } from '../media/source-pool';
import { laneLeaves } from './lanes';
import type { SourceFrames } from '../media/source-frames';
import { Betweens } from './between';
import type { MakerPool } from './makers/maker-pool';
import { meanOf, type Place } from './mean';

/** Where what sources give is decoded and made. */
export class Studio {
  readonly betweens: Betweens;

  /** @param makers workers that make pictures */
  constructor(
    readonly pool: SourcePool,
    readonly makers: MakerPool,
  ) {
    this.betweens = new Betweens(makers);
  }

  async close(): Promise<void> {
    this.makers.close();
    await this.pool.close();
  }
}

/** What sources give to one picture, decoded and exposed; whoever has it closes it. */
export class PictureSamples {
  private readonly samples = new Map<SeenLeaf, VideoSample>();
  private readonly doubts: number[] = [];

  /**
   * Decodes what a picture is made of.
   *
   * @param from which frames of a source are taken: the ones at hand, or the file's own
   * @throws what opening a source or its decoder throws
   */
  static async of(
    studio: Studio,
    picture: SeenPicture,
    from: 'frames' | 'exact',
    signal?: AbortSignal,
  ): Promise<PictureSamples> {
    const all = new PictureSamples();
    try {
      for (const { lane, leaf } of laneLeaves(picture)) {
        const frames = (await studio.pool.get(lane))[from];
        // What stands still in what moves is the same at every moment.
        const same = [...all.samples].find(([other]) => sameLeaf(other, leaf))?.[1];
        all.samples.set(leaf, same?.clone() ?? (await all.leafPicture(studio, frames, leaf, signal)));
      }
      return all;
    } catch (error) {
      all.close();
      throw error;
    }
  }

  /** What a leaf of the very picture shows. */
  readonly get = (leaf: SeenLeaf): VideoSample => this.samples.get(leaf)!;

  /** The share, 0 to 1, of what was made between frames that could not be made of what moved; undefined where nothing was. */
  get doubt(): number | undefined {
    const { doubts } = this;
    return doubts.length > 0 ? doubts.reduce((sum, doubt) => sum + doubt, 0) / doubts.length : undefined;
  }

  close(): void {
    for (const sample of this.samples.values()) sample.close();
    this.samples.clear();
  }

  /** What a source gives to a picture: a frame, what is between two, or the mean of several. */
  private leafPicture(
    { makers, betweens }: Studio,
    frames: SourceFrames,
    leaf: SeenLeaf,
    signal?: AbortSignal,
  ): Promise<VideoSample> {
    const frameAt = ({ frame, key }: Place): Promise<VideoSample> =>
      frames.get(key ? nearestKey(frames, frame) : frame, signal);
    const pictureAt = async ({ frame, share, key }: Place): Promise<VideoSample> => {
      if (share === undefined) return frameAt({ frame, ...(key && { key }) });
      const made = await betweens.get(frames, frame, share, signal);
      if (made) {
        this.doubts.push(made.doubt);
        return made.sample;
      }
      const parts = [
        { frame, weight: 1 - share },
        { frame: frame + 1, weight: share },
      ];
      return meanOf(makers, frames, parts, frameAt);
    };
    if (!('parts' in leaf)) return pictureAt(leaf);
    const parts = leaf.parts.map(({ seen: { frame, share, key }, weight }) => ({
      ...{ frame, weight },
      ...(share !== undefined && { share }),
      ...(key && { key }),
    }));
    return meanOf(makers, frames, parts, pictureAt);
  }
}

/** The nearest frame with which a group begins that is coded by itself. */
function nearestKey(frames: SourceFrames, frame: number): number {
  const { start, end } = frames.group(frame);
  return end < frames.frames && end - frame < frame - start ? end : start;
}
