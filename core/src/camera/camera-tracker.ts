import type { PlanarPicture } from '../flow';
import { pyramidOf, type Plane } from '../flow/pyramid';
import {
  planeAfter,
  planeIdentity,
  planeInverse,
  planePart,
  planePoint,
  planeScaled,
  type PlaneMap,
  type Size,
} from '../picture';
import { coarseShift } from './coarse';
import { cornersIn, featureAt, type Feature } from './features';
import { fitMovement, Pairs } from './fit';
import { followed, type Lie } from './follow';

/** Pixels of a picture's longer side that are looked at, at most; and of the version of it that tells where to look. */
const LOOKED_AT = 640;
const SMALL = 90;
/** Versions, each half as large, by which that is told. */
const COARSE = 2;
/** Likeness below which a feature was not found, and pixels by which it may lie off where it is expected. */
const ALIKE = 0.8;
const ASTRAY = 24;
/** Share of its features below which a picture is not recognised, and below which a nearer one is taken to follow from. */
const RECOGNISED = 0.2;
const NEARER = 0.55;
/** Share below which features are looked for once more, where those that were found say they are. */
const ONCE_MORE = 0.75;
/** Pictures in which nothing is recognised, after which what was before is taken to be over. */
const BRIDGED = 8;

/** How the whole picture moves from the frame before to a frame, in pixels as displayed. */
export interface CameraMove {
  map: PlaneMap;
  /** 0 to 1: the share of what was followed that goes along; 0 where a frame has nothing to do with the one before. */
  confidence: number;
}

/** A picture from which others are followed. */
interface Anchor {
  /** Of each level, the finest first. */
  features: readonly (readonly (Feature | undefined)[])[];
}

/** Where a picture was found. */
interface Sighting {
  map: PlaneMap;
  share: number;
}

/** Tells from picture to picture how the camera moves, whatever moves before it. */
export class CameraTracker {
  private readonly found: CameraMove[] = [];
  /** Times that pictures are halved before they are looked at, and how large they are then. */
  private readonly halvings: number;
  private readonly size: Size;
  private anchor: Anchor | undefined;
  /** From the anchor to the last picture in which it was seen; and how many pictures ago that was. */
  private last: PlaneMap = planeIdentity;
  private missing = 0;
  /** The first picture that was not recognised: where what follows is like it, there is a cut. */
  private stranger: { anchor: Anchor; small: readonly Plane[] } | undefined;
  private small: readonly Plane[] | undefined;

  /** @param shown the pictures' size, as displayed */
  constructor(shown: Size) {
    this.halvings = Math.max(0, Math.ceil(Math.log2(Math.max(shown.width, shown.height) / LOOKED_AT)));
    this.size = { width: shown.width >> this.halvings, height: shown.height >> this.halvings };
  }

  /** Looks at the next picture. */
  push({ width, height, data }: PlanarPicture): void {
    const levels = pyramidOf({ width, height, data: data.subarray(0, width * height) }).slice(this.halvings);
    const first = levels.findIndex((level) => Math.max(level.width, level.height) <= SMALL);
    const small = first < 0 ? levels.slice(-1) : levels.slice(first, first + COARSE);
    if (!this.anchor) {
      this.found.push({ map: planeIdentity, confidence: 0 });
      this.start(anchorOf(levels), small);
      return;
    }
    const seen = this.sighted(this.anchor, levels, this.small!, small, this.last);
    if (seen) this.recognised(seen, levels, small);
    else this.lost(levels, small);
  }

  /** From each picture to the next: as many as were pushed; the first has none before it. */
  moves(): CameraMove[] {
    const times = 2 ** this.halvings;
    return this.found.map(({ map, confidence }) => ({ map: planeScaled(map, times), confidence }));
  }

  private start(anchor: Anchor, small: readonly Plane[]): void {
    Object.assign(this, { anchor, small, last: planeIdentity, missing: 0, stranger: undefined });
  }

  private recognised({ map, share }: Sighting, levels: readonly Plane[], small: readonly Plane[]): void {
    const back = planeInverse(this.last);
    const moved = back ? planeAfter(map, back) : planeIdentity;
    const steps = this.missing + 1;
    // Pictures in which it was not seen lie on the way.
    let before = planeIdentity;
    for (let step = 1; step <= steps; step++) {
      const there = step === steps ? moved : planePart(moved, step / steps, this.size);
      const from = planeInverse(before);
      const one = {
        map: from ? planeAfter(there, from) : planeIdentity,
        confidence: step === steps ? share : share / 2,
      };
      if (step < steps) this.found[this.found.length - steps + step] = one;
      else this.found.push(one);
      before = there;
    }
    if (share < NEARER) this.start(anchorOf(levels), small);
    else Object.assign(this, { last: map, small, missing: 0, stranger: undefined });
  }

  private lost(levels: readonly Plane[], small: readonly Plane[]): void {
    const { stranger } = this;
    const again = stranger && this.sighted(stranger.anchor, levels, stranger.small, small, planeIdentity);
    if (again) {
      // It goes on from the cut.
      this.start(stranger.anchor, stranger.small);
      this.recognised(again, levels, small);
      return;
    }
    this.found.push({ map: planeIdentity, confidence: 0 });
    const anchor = anchorOf(levels);
    if (++this.missing > BRIDGED) this.start(anchor, small);
    else this.stranger = { anchor, small };
  }

  /** Where an anchor's features are in a picture, by where they were in the one before. */
  private sighted(
    anchor: Anchor,
    levels: readonly Plane[],
    before: readonly Plane[],
    small: readonly Plane[],
    last: PlaneMap,
  ): Sighting | undefined {
    const shift = coarseShift(before, small);
    const by = this.size.width / small[0]!.width;
    const expected = planeAfter([1, 0, 0, 1, shift.x * by, shift.y * by, 0, 0], last);
    const seen = this.followedTo(anchor, levels, expected);
    if (!seen || seen.share >= ONCE_MORE) return seen && known(seen);
    const again = this.followedTo(anchor, levels, seen.map);
    return known(again && again.share > seen.share ? again : seen);
  }

  private followedTo(anchor: Anchor, levels: readonly Plane[], expected: PlaneMap): Sighting | undefined {
    const lie = lieOf(expected, this.size);
    const [fine, half] = anchor.features;
    const pairs = new Pairs();
    fine!.forEach((feature, n) => {
      if (!feature) return;
      const start = planePoint(expected, feature);
      const at = { ...start };
      const rough = half?.[n];
      if (rough && levels[1]) {
        // A level's pixel has the middle of four of the one below.
        const there = { x: (at.x - 0.5) / 2, y: (at.y - 0.5) / 2 };
        const offX = (feature.x - 0.5) / 2 - rough.x;
        const offY = (feature.y - 0.5) / 2 - rough.y;
        const aside = { x: lie.a * offX + lie.c * offY, y: lie.b * offX + lie.d * offY };
        there.x -= aside.x;
        there.y -= aside.y;
        const alike = followed(levels[1], rough, there, lie);
        if (alike !== undefined && alike > ALIKE / 2) {
          at.x = 2 * (there.x + aside.x) + 0.5;
          at.y = 2 * (there.y + aside.y) + 0.5;
        }
      }
      const alike = followed(levels[0]!, feature, at, lie);
      if (alike === undefined || alike < ALIKE || Math.hypot(at.x - start.x, at.y - start.y) > ASTRAY) return;
      // Pixels' middles are at a half.
      pairs.add({ x: feature.x + 0.5, y: feature.y + 0.5 }, { x: at.x + 0.5, y: at.y + 0.5 }, feature);
    });
    const fitted = fitMovement(pairs, this.size);
    return fitted && { map: fitted.map, share: fitted.agree / fine!.length };
  }
}

/** Where enough is recognised. */
const known = (seen: Sighting): Sighting | undefined => (seen.share < RECOGNISED ? undefined : seen);

function anchorOf(levels: readonly Plane[]): Anchor {
  const corners = cornersIn(levels[0]!);
  const fine = corners.map(({ x, y }) => featureAt(levels[0]!, x, y));
  const half = levels[1] && corners.map(({ x, y }) => featureAt(levels[1]!, (x - 0.5) / 2, (y - 0.5) / 2));
  return { features: half ? [fine, half] : [fine] };
}

/** How a map turns and grows what is in the middle of a picture. */
function lieOf(map: PlaneMap, { width, height }: Size): Lie {
  const [x, y] = [width / 2, height / 2];
  const [here, right, down] = [planePoint(map, { x, y }), planePoint(map, { x: x + 1, y }), planePoint(map, { x, y: y + 1 })]; // prettier-ignore
  return { a: right.x - here.x, b: right.y - here.y, c: down.x - here.x, d: down.y - here.y };
}
