import type { VideoSample } from 'mediabunny';
import type { SourceFrames } from '../media/source-frames';
import { WorkerGaveUp } from '../worker/handle';
import { breathe } from '../worker/breathe';
import { flowName } from './flow-store';
import type { Arrow, Makes } from './makers/maker';
import type { MakerPool } from './makers/maker-pool';
import { parcelOf, sampleOf } from './makers/parcel';
import type { Neighbours } from './neighbours';

/** Two neighbours of a source, and who knows what moved between them: several pictures are mostly asked for of the same two. */
interface Pair {
  frames: SourceFrames;
  frame: number;
  next: number;
  width: number;
  height: number;
  number: number;
  makes: Makes;
  /** Whether pictures between them can be made. */
  found: Promise<boolean>;
}

/** A picture between two frames, and the share of it that could not be made of what moved. */
interface BetweenPicture {
  sample: VideoSample;
  doubt: number;
}

/** Pairs that are kept beside those that are worked on: an exposure may reach from one into the next, in two layers. */
const KEPT = 3;

/** Makes pictures between neighbours, and keeps what was found of the last ones. */
export class Betweens {
  private pairs: Pair[] = [];

  constructor(private readonly makers: MakerPool) {}

  /**
   * The picture between two frames of a source, made of what moved from the one to the other.
   *
   * @param share how far it is on its way from the first to the second, more than 0 and less than 1
   * @returns the caller closes the picture; undefined where frames are of a kind that it can't be made of
   * @throws what the decoder throws
   */
  get(
    frames: SourceFrames,
    { first, second, share }: Neighbours,
    signal?: AbortSignal,
  ): Promise<BetweenPicture | undefined> {
    return this.with(frames, first, second, (pair) => pictureOf(pair, share), signal);
  }

  /** What moved from one frame to another, as so many arrows across; none where nothing can be found of them. */
  async movement(
    frames: SourceFrames,
    { first, second }: Pick<Neighbours, 'first' | 'second'>,
    across: number,
    signal?: AbortSignal,
  ): Promise<Arrow[]> {
    const arrows = async ({ found, makes, number }: Pair): Promise<Arrow[]> =>
      (await found) ? makes.movement(number, across) : [];
    return this.with(frames, first, second, arrows, signal);
  }

  /** Lets go of what was found: frames may show something else now. */
  forget(): void {
    for (const pair of [...this.pairs]) this.drop(pair);
  }

  private async with<T>(
    frames: SourceFrames,
    frame: number,
    next: number,
    ask: (pair: Pair) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const first = await frames.get(frame, signal);
    try {
      // Making it takes a while: what one wants instead by now is heard of before.
      await breathe();
      signal?.throwIfAborted();
      const known = this.known(frames, frame, next, first);
      if (known) {
        try {
          return await ask(known);
        } catch (error) {
          // Its worker broke down, with all it knew.
          if (!(error instanceof WorkerGaveUp)) throw error;
          this.drop(known);
        }
      }
      return await this.makers.with(async (makes) => {
        const pair = this.begin(makes, frames, frame, next, first);
        try {
          return await ask(pair);
        } catch (error) {
          this.drop(pair);
          throw error;
        }
      });
    } finally {
      first.close();
    }
  }

  // Pictures on the stage are as large as it is.
  private known(
    frames: SourceFrames,
    frame: number,
    next: number,
    { visibleRect: { width, height } }: VideoSample,
  ): Pair | undefined {
    return this.pairs.find(
      (pair) =>
        pair.frames === frames &&
        pair.frame === frame &&
        pair.next === next &&
        pair.width === width &&
        pair.height === height,
    );
  }

  private begin(makes: Makes, frames: SourceFrames, frame: number, next: number, first: VideoSample): Pair {
    const { width, height } = first.visibleRect;
    const number = this.makers.number();
    const { identity } = frames;
    const one = parcelOf(first);
    const found = frames.get(next).then(
      async (second) => {
        const other = parcelOf(second);
        second.close();
        const name = identity && (await flowName(identity, [frame, next, width, height]));
        return makes.find(number, one, other, name);
      },
      (error: unknown) => {
        one.frame.close();
        throw error;
      },
    );
    const pair: Pair = { frames, frame, next, width, height, number, makes, found };
    this.pairs.unshift(pair);
    for (const old of this.pairs.slice(KEPT + this.makers.width)) this.drop(old);
    return pair;
  }

  private drop(pair: Pair): void {
    this.pairs = this.pairs.filter((one) => one !== pair);
    pair.makes.dropPair(pair.number).catch(() => undefined);
  }
}

async function pictureOf({ found, makes, number }: Pair, share: number): Promise<BetweenPicture | undefined> {
  if (!(await found)) return undefined;
  const { doubt, ...parcel } = await makes.between(number, share);
  return { sample: sampleOf(parcel), doubt };
}
