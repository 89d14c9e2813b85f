import type { FitWay } from '@hastig/contract';
import {
  leavesOf,
  looksSame,
  toPrimariesOf625,
  type FoundMovement,
  type Mixing,
  type PlaneMap,
  type Program,
  type SeenPicture,
  type Size,
} from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { Movers } from '../../steady/movers';
import { drawPicture } from '../draw';
import type { FileColours } from '../file-colours';
import { findBetween, letGo, type Between, type FlowKeeper } from '../find-between';
import { FlowStore } from '../flow-store';
import { lightIn } from '../picture-light';
import { PixelSheets, pixelsOf } from '../pixels';
import { planarOf } from '../planar';
import { PlaneMaker } from '../plane-maker';
import { PlanarSum } from '../planar-sum';
import { sampleOf, type Parcel } from './parcel';

/** What is to be drawn, and into what. */
export interface DrawOrder {
  picture: SeenPicture;
  /** The frame's size and the sources', as the program has them. */
  sizes: Pick<Program, 'frame' | 'sizes'>;
  /** Pixels of the picture, whole and even. */
  size: Size;
  /** How the frame lies in a picture of another shape; not told where it has the frame's. */
  fit?: FitWay;
  colours: FileColours;
}

/** A picture made between two. */
export interface MadeBetween extends Parcel {
  /** The share of it, 0 to 1, that could not be made of what moved. */
  doubt: number;
}

/** Where a place of a picture moved to, in shares of its width and height; and whether the way back leads there again. */
export interface Arrow {
  x: number;
  y: number;
  toX: number;
  toY: number;
  sure: boolean;
}

/** Steps of the grid by which a way back may miss where it began. */
const ASTRAY = 2;

function arrowsOf({ columns, rows, x, y, miss }: FoundMovement, across: number): Arrow[] {
  const step = Math.max(1, Math.floor(columns / across));
  const arrows: Arrow[] = [];
  for (let row = step >> 1; row < rows; row += step) {
    for (let column = step >> 1; column < columns; column += step) {
      const n = row * columns + column;
      const [atX, atY] = [column + 0.5, row + 0.5];
      arrows.push({
        ...{ x: atX / columns, y: atY / rows, toX: (atX + x[n]!) / columns, toY: (atY + y[n]!) / rows },
        sure: miss[n]! <= ASTRAY,
      });
    }
  }
  return arrows;
}

/** How a picture counts beside others, and how they are put together. */
export interface Counts {
  weight: number;
  /** By which its light is more than it was. */
  gain: number;
  mixing: Mixing;
}

/** Makes pictures out of pictures, here or in a worker of its own; the same calls lead to both. Parcels are used up. */
export interface Makes {
  /**
   * Adds a picture to a mean, or what else is made of several, which begins with the first one.
   *
   * @param mean a number of the caller's
   * @returns whether it could be added to the others
   */
  add(mean: number, parcel: Parcel, counts: Counts): Promise<boolean>;
  /**
   * What comes of all that was added, nothing of which is here any more then; null where the device let go of it.
   *
   * @param all whether weights are other than 1 all together, so that what stands still changes too
   */
  mean(mean: number, all?: boolean): Promise<Parcel | null>;
  dropMean(mean: number): Promise<void>;
  /**
   * Finds what moved from one picture to the next.
   *
   * @param pair a number of the caller's
   * @param name under which it is kept on the device, and looked for; it is not unless told
   * @returns whether pictures between them can be made: they are of one kind and size
   */
  find(pair: number, first: Parcel, second: Parcel, name?: string): Promise<boolean>;
  /** The picture at a moment between the two, 0 to 1. */
  between(pair: number, share: number): Promise<MadeBetween>;
  /** What moved between the two, as so many arrows across. */
  movement(pair: number, across: number): Promise<Arrow[]>;
  dropPair(pair: number): Promise<void>;
  /** Whether two pictures show the same, but for what a coder changed; not where they are of different kinds. */
  same(one: Parcel, other: Parcel): Promise<boolean>;
  /** The mean light of a picture, 0 to 1. */
  light(parcel: Parcel): Promise<number>;
  /**
   * A picture moved: at each place what the map leads to, in pixels of it as displayed; what lies outside is mirrored at its edges, or
   * is its edge.
   */
  move(parcel: Parcel, map: PlaneMap, mirror: boolean): Promise<Parcel>;
  /** Lays layers on each other, in planes of a file's colours. @param parcels what each leaf shows, in the order of `leavesOf` */
  draw(order: DrawOrder, parcels: readonly Parcel[]): Promise<Parcel>;
}

interface Pair {
  made: Between;
  width: number;
  height: number;
  like: Pick<VideoSample, 'squarePixelWidth' | 'squarePixelHeight' | 'colorSpace' | 'rotation'>;
}

/** Does one thing after the other, in the order in which they are asked for. */
class Turns {
  private last: Promise<unknown> = Promise.resolve();

  next<T>(work: () => Promise<T>): Promise<T> {
    const mine = this.last.then(work, work);
    this.last = mine.catch(() => undefined);
    return mine;
  }
}

/** Makes pictures in this very thread, one after the other. */
export class Maker implements Makes {
  private readonly turns = new Turns();
  private readonly sums = new Map<number, PlanarSum>();
  private readonly pairs = new Map<number, Pair>();
  private flows: FlowStore | undefined;
  private readonly movers = new Movers();
  private readonly sheets = new PixelSheets();
  private sheet: { context: OffscreenCanvasRenderingContext2D; planes: PlaneMaker; colours: FileColours } | undefined;

  add(mean: number, parcel: Parcel, { weight, gain, mixing }: Counts): Promise<boolean> {
    return this.turns.next(async () => {
      const sample = sampleOf(parcel);
      try {
        const sum = this.sums.get(mean) ?? (await PlanarSum.for(sample, mixing));
        if (!sum) return false;
        this.sums.set(mean, sum);
        return await sum.add(sample, weight, gain);
      } finally {
        sample.close();
      }
    });
  }

  mean(mean: number, all = false): Promise<Parcel | null> {
    return this.turns.next(() => {
      const sum = this.sums.get(mean)!;
      this.sums.delete(mean);
      if (all) sum.sumAll();
      const frame = sum.frame();
      sum.close();
      return Promise.resolve(frame ? { frame, rotation: sum.rotation } : null);
    });
  }

  dropMean(mean: number): Promise<void> {
    return this.turns.next(() => {
      this.sums.get(mean)?.close();
      this.sums.delete(mean);
      return Promise.resolve();
    });
  }

  find(pair: number, first: Parcel, second: Parcel, name?: string): Promise<boolean> {
    return this.turns.next(async () => {
      const [one, other] = [sampleOf(first), sampleOf(second)];
      try {
        const [a, b] = [await planarOf(one), await planarOf(other)];
        if (!a || !b || a.width !== b.width || a.height !== b.height) return false;
        const { squarePixelWidth, squarePixelHeight, colorSpace, rotation } = one;
        const like = { squarePixelWidth, squarePixelHeight, colorSpace, rotation };
        this.pairs.set(pair, {
          made: await findBetween(a, b, name === undefined ? undefined : this.keeperOf(name)),
          width: a.width,
          height: a.height,
          like,
        });
        return true;
      } finally {
        one.close();
        other.close();
      }
    });
  }

  private keeperOf(name: string): FlowKeeper {
    const store = (this.flows ??= new FlowStore());
    return { read: () => store.read(name), write: (bytes) => void store.write(name, bytes) };
  }

  between(pair: number, share: number): Promise<MadeBetween> {
    return this.turns.next(() => {
      const { made, width, height, like } = this.pairs.get(pair)!;
      const { data, doubt } = made.at(share);
      const frame = new VideoFrame(data, {
        ...{ format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0 },
        ...{ displayWidth: like.squarePixelWidth, displayHeight: like.squarePixelHeight },
        colorSpace: like.colorSpace.toJSON(),
      });
      return Promise.resolve({ frame, rotation: like.rotation, doubt });
    });
  }

  movement(pair: number, across: number): Promise<Arrow[]> {
    return this.turns.next(() => Promise.resolve(arrowsOf(this.pairs.get(pair)!.made.movement(), across)));
  }

  dropPair(pair: number): Promise<void> {
    return this.turns.next(() => {
      const known = this.pairs.get(pair);
      if (known) letGo(known.made);
      this.pairs.delete(pair);
      return Promise.resolve();
    });
  }

  same(one: Parcel, other: Parcel): Promise<boolean> {
    return this.turns.next(async () => {
      const [first, second] = [sampleOf(one), sampleOf(other)];
      try {
        const [a, b] = [await planarOf(first), await planarOf(second)];
        return !!a && !!b && a.width === b.width && a.height === b.height && looksSame(a, b);
      } finally {
        first.close();
        second.close();
      }
    });
  }

  light(parcel: Parcel): Promise<number> {
    return this.turns.next(async () => {
      const sample = sampleOf(parcel);
      try {
        return await lightIn(sample);
      } finally {
        sample.close();
      }
    });
  }

  move(parcel: Parcel, map: PlaneMap, mirror: boolean): Promise<Parcel> {
    return this.turns.next(async () => {
      const sample = sampleOf(parcel);
      try {
        return await this.movers.of(sample, map, mirror);
      } finally {
        sample.close();
      }
    });
  }

  draw({ picture, sizes, size, fit, colours }: DrawOrder, parcels: readonly Parcel[]): Promise<Parcel> {
    return this.turns.next(async () => {
      const samples = new Map(leavesOf(picture).map((leaf, index) => [leaf, sampleOf(parcels[index]!)]));
      const { context, planes } = this.sheetOf(size, colours);
      try {
        const pixels = await pixelsOf(this.sheets, picture, (leaf) => samples.get(leaf)!);
        drawPicture(context, picture, sizes, pixels.get, fit);
        pixels.close();
        const { data } = context.getImageData(0, 0, size.width, size.height);
        // Drawing turned them into the screen's.
        if (colours.init.primaries === 'bt470bg') toPrimariesOf625(data);
        const frame = new VideoFrame(await planes.of(data), {
          ...{ format: 'I420', codedWidth: size.width, codedHeight: size.height, timestamp: 0 },
          colorSpace: colours.init,
        });
        return { frame, rotation: 0 };
      } finally {
        for (const sample of samples.values()) sample.close();
      }
    });
  }

  private sheetOf({ width, height }: Size, colours: FileColours): NonNullable<Maker['sheet']> {
    const { sheet } = this;
    const { planes: space } = colours;
    const same =
      sheet?.context.canvas.width === width &&
      sheet.context.canvas.height === height &&
      sheet.colours.planes.matrix === space.matrix &&
      sheet.colours.planes.fullRange === space.fullRange;
    if (sheet && same) return sheet;
    // Read back for every picture, so it stays where the processor is.
    const context = new OffscreenCanvas(width, height).getContext('2d', { alpha: false, willReadFrequently: true })!;
    context.imageSmoothingQuality = 'high';
    return (this.sheet = { context, planes: new PlaneMaker(width, height, space), colours });
  }
}
