import { mainFrame, sameLeaf, type Program, type SeenLeaf, type SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import type { SourcePool } from '../media/source-pool';
import { SteadiedFrames } from '../steady/steadied-frames';
import { decoderLeaves } from './decoders';
import { Betweens } from './between';
import { EvenLight } from './even-light';
import { LeafPicture, type LeafMakers } from './leaf-picture';
import type { MakerPool } from './makers/maker-pool';
import { Repeats } from './repeats';

/** Sources whose moved frames are kept at once. */
const MOST_STEADIED = 12;

/** Where what sources give is decoded and made. */
export class Studio implements LeafMakers {
  readonly betweens: Betweens;
  readonly repeats: Repeats;
  readonly evenLight: EvenLight;

  /** How frames of sources are moved, by their keys; and what moves them, the last one first: the same one does all the time. */
  private paths: Program['steadies'];
  private steadied: SteadiedFrames[] = [];

  /** @param makers workers that make pictures */
  constructor(
    readonly pool: SourcePool,
    readonly makers: MakerPool,
  ) {
    this.betweens = new Betweens(makers);
    this.repeats = new Repeats(makers);
    this.evenLight = new EvenLight(makers);
  }

  /** Frames are moved as a program says from now on. */
  follow({ steadies }: Pick<Program, 'steadies'>): void {
    this.paths = steadies;
    // Of paths that are tried out one after the other, only those that are followed now are of use.
    const followed = new Set(Object.values(steadies ?? {}));
    this.keep(({ path }) => followed.has(path));
  }

  /** A source's frames as a leaf wants them: moved, or as they are. */
  framesFor(frames: SourceFrames, leaf: SeenLeaf): SourceFrames {
    const { steady } = mainFrame(leaf);
    const path = steady === undefined ? undefined : this.paths?.[steady];
    if (!path) return frames;
    const known = this.steadied.find((one) => one.file === frames && one.path === path);
    const moved = known ?? new SteadiedFrames(frames, path, this.makers);
    this.steadied = [moved, ...this.steadied.filter((one) => one !== moved)];
    const kept = new Set(this.steadied.slice(0, MOST_STEADIED));
    this.keep((one) => kept.has(one));
    return moved;
  }

  private keep(isKept: (one: SteadiedFrames) => boolean): void {
    for (const one of this.steadied) if (!isKept(one)) void one.close();
    this.steadied = this.steadied.filter(isKept);
  }

  /** Lets go of what was found in pictures: sources may be taken another way now. */
  forget(): void {
    this.betweens.forget();
    this.repeats.forget();
    this.evenLight.forget();
    this.keep(() => false);
  }

  async close(): Promise<void> {
    this.keep(() => false);
    this.makers.close();
    await this.pool.close();
  }
}

/** What sources give to one picture, decoded and exposed; whoever has it closes it. */
export class PictureSamples {
  private readonly samples = new Map<SeenLeaf, VideoSample>();
  private readonly doubts: number[] = [];
  /** Milliseconds: what moving frames took, and what putting pictures together did. */
  readonly costs = { moved: 0, mixed: 0 };

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
      for (const { decoder, leaf } of decoderLeaves(picture)) {
        const frames = studio.framesFor((await studio.pool.get(decoder))[from], leaf);
        // What stands still in what moves is the same at every moment.
        const same = [...all.samples].find(([other]) => sameLeaf(other, leaf))?.[1];
        const made = new LeafPicture(studio, frames, signal);
        const before = frames.spent ?? 0;
        all.samples.set(leaf, same?.clone() ?? (await made.of(leaf)));
        all.doubts.push(...made.doubts);
        all.costs.moved += (frames.spent ?? 0) - before;
        all.costs.mixed += made.mixed;
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
}
