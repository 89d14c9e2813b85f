import { flowBetween } from './flow';
import { missOf, movementAt, type FoundFlow } from './movement';
import { pyramidOf, type Plane } from './pyramid';
import { warpPlane } from './warp';

// Looked up once: the loops below run for every pixel.
const { abs, max, min } = Math;

/** A 4:2:0 picture: brightness, and two colour differences of half the width and height, rounded up; no gaps. */
export interface PlanarPicture {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Pixels of the longer side up to which movement is looked for at full size, and those up to which at half. */
const SMALL = 480;
const LARGE = 1440;
/** Pixels by which a flow and the one back miss each other where nothing was found. */
const ASTRAY = 2;
/** The part of both pictures of which nothing was found in the other, from which on a cut may lie between them. */
const LOST = 0.7;
/** Mean difference, of 255 and apart from how bright all of it is, that they must have beside: else it is noise. */
const CUT = 8;

/** Bytes of a picture in planes. */
export const planarBytes = (width: number, height: number): number =>
  width * height + 2 * ((width + 1) >> 1) * ((height + 1) >> 1);

/** The planes of a picture, one behind the other. */
function planesOf({ width, height, data }: PlanarPicture): Plane[] {
  const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
  const [luma, chroma] = [width * height, across * down];
  return [
    { width, height, data: data.subarray(0, luma) },
    { width: across, height: down, data: data.subarray(luma, luma + chroma) },
    { width: across, height: down, data: data.subarray(luma + chroma, luma + 2 * chroma) },
  ];
}

function levelOf(width: number, height: number): number {
  const side = max(width, height);
  if (side <= SMALL) return 0;
  let level = 1;
  for (let most = LARGE; side > most; most *= 2) level++;
  return level;
}

/** The part of a picture whose flow and the one back don't lead to where it began. */
function lostOf({ miss }: FoundFlow): number {
  let lost = 0;
  for (let n = 0; n < miss.length; n++) if (miss[n]! > ASTRAY) lost++;
  return lost / miss.length;
}

/** Mean difference of two pictures, of 255, apart from how bright all of each is. */
function differenceOf(one: Plane, other: Plane): number {
  const count = one.data.length;
  let sum = 0;
  for (let n = 0; n < count; n++) sum += other.data[n]! - one.data[n]!;
  const mean = sum / count;
  let total = 0;
  for (let n = 0; n < count; n++) total += abs(other.data[n]! - one.data[n]! - mean);
  return total / count;
}

/** A picture made between two others. */
export interface MadePicture {
  /** Its planes. */
  data: Uint8Array;
  /** The share of it that could not be made of what moved and was blended, 0 to 1. */
  doubt: number;
}

/** What moved from one picture to the next, on a grid that covers it. */
export interface FoundMovement {
  columns: number;
  rows: number;
  /** Steps of the grid to the right and down, place by place. */
  x: Float32Array;
  y: Float32Array;
  /** By how many steps the way back does not lead where it began. */
  miss: Float32Array;
}

/** Two pictures that follow each other: what moved between them is found once, and pictures at any moment are made of it. */
export class InBetween {
  /** A cut lies between them: there is nothing in between. */
  readonly isCut: boolean;
  private readonly forth: FoundFlow;
  private readonly back: FoundFlow;

  /** @param second of the same size as the first */
  constructor(
    private readonly first: PlanarPicture,
    private readonly second: PlanarPicture,
  ) {
    const levels = (picture: PlanarPicture): Plane[] => pyramidOf(planesOf(picture)[0]!);
    const [a, b] = [levels(first), levels(second)];
    const finest = min(levelOf(first.width, first.height), a.length - 1);
    const [forth, back] = [flowBetween(a, b, finest), flowBetween(b, a, finest)];
    this.forth = { ...forth, miss: missOf(forth, back) };
    this.back = { ...back, miss: missOf(back, forth) };
    this.isCut = lostOf(this.forth) > LOST && lostOf(this.back) > LOST && differenceOf(a[finest]!, b[finest]!) > CUT;
  }

  /** What moved from the first to the second. */
  movement(): FoundMovement {
    const { width: columns, height: rows, x, y, miss } = this.forth;
    return { columns, rows, x: x.slice(), y: y.slice(), miss: miss.slice() };
  }

  /**
   * The picture at a moment between them; across a cut the nearer of the two.
   *
   * @param share how far from the first to the second, 0 to 1
   */
  at(share: number): MadePicture {
    const { first, second } = this;
    if (share <= 0 || (this.isCut && share < 0.5)) return { data: first.data.slice(), doubt: 0 };
    if (share >= 1 || this.isCut) return { data: second.data.slice(), doubt: 0 };
    const move = movementAt(this.forth, this.back, share);
    const data = new Uint8Array(planarBytes(first.width, first.height));
    const [one, two, out] = [planesOf(first), planesOf(second), planesOf({ ...first, data })];
    let doubt = 0;
    out.forEach((plane, index) => {
      const found = warpPlane(one[index]!, two[index]!, move, share, plane.data);
      if (index === 0) doubt = found;
    });
    return { data, doubt };
  }
}
