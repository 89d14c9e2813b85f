import type { PlanarPicture } from '../flow';
import { Polar, turnsOf, type Signature } from './polar';
import { alikeness, refined, samplesOf, takenAt, templateOf, type Grid, type Pose, type Template } from './refine';
import { inRegion, partOf, PLANES, regionAt, type Region } from './region';

/** A box on a picture, in pixels of it as displayed. */
export interface TrackBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How what is tracked was found in a picture. */
export interface Found {
  pose: Pose;
  /** 0 to 1: how sure it is. */
  confidence: number;
  /** What is around it; not told where it was not found. */
  region?: Region;
}

/** Samples of a template from its middle to its edge at most, and of one for a first look. */
const MOST_HALF = 20;
const COARSE_HALF = 7;
/** Confidence below which it is not taken to have been found. */
export const DOUBTFUL = 0.6;
/** Units around where it is expected in which it is looked for, at least and at most. */
const LEAST_REACH = 8;
const MOST_REACH = 110;
/** Pictures for which what is lost is taken to go on as it did. */
const GOES_ON = 3;
/** Likeness above which it is not looked for elsewhere, and by how much one at the edge of where it is looked for counts less. */
const SURE = 0.72;
const FAR = 0.05;
/** Likeness at which the first guess is it; and by how much less like another guess may be to be tried to the end. */
const PLAIN = 0.97;
const CLOSE = 0.15;
/** Places that are looked at closely, turns of each, and poses that are refined to the end. */
const CANDIDATES = 5;
const TURNS = 2;
const FINALISTS = 2;
const COARSE_ROUNDS = 4;
const ROUNDS = 8;
/** Samples below which a step is the last: what is coarse is refined after. */
const ROUGH = 0.05;
const ENOUGH = 0.01;
/** By how much its size may change from one picture to the next. */
const GROWTH = 0.15;

interface Seen {
  pose: Pose;
  score: number;
  region: Region;
}

const better = (a: Seen | undefined, b: Seen): Seen => (a && a.score > b.score ? a : b);

/** Follows one thing from picture to picture. */
export class PointTracker {
  readonly start: Found;
  readonly template: Template;
  private readonly coarse: Template;
  private readonly radius: number;
  private readonly signature: Signature;
  private pose: Pose;
  private speed = { x: 0, y: 0, turn: 0 };
  /** Pictures in which it was not found, and in which it was, one after the other. */
  private lost = 0;
  private found = 0;

  /** @param picture on which the box was put */
  constructor(picture: PlanarPicture, box: TrackBox) {
    this.pose = { x: box.x + box.width / 2, y: box.y + box.height / 2, turn: 0, size: 1 };
    const unit = Math.max(1, Math.ceil(Math.min(box.width, box.height) / 2 / MOST_HALF));
    const half = (length: number, most: number): number => Math.min(most, Math.max(2, Math.round(length / 2 / unit)));
    const grid = { unit, halfAcross: half(box.width, 2 * MOST_HALF), halfDown: half(box.height, 2 * MOST_HALF) };
    const region = this.regionOf(picture, this.pose, grid, 0);
    this.template = taken(region, grid, this.pose);
    this.radius = Math.min(grid.halfAcross, grid.halfDown);
    const sparse = Math.max(1, this.radius / COARSE_HALF);
    const few = (count: number): number => Math.max(2, Math.round(count / sparse));
    this.coarse = taken(
      region,
      { unit: unit * sparse, halfAcross: few(grid.halfAcross), halfDown: few(grid.halfDown) },
      this.pose,
    );
    this.signature = new Polar(region, this.radius).at(...inRegion(region, this.pose.x, this.pose.y));
    this.start = { pose: this.pose, confidence: 1, region };
  }

  /** One that looks for what is seen there in a picture, where it was found last; it goes on as this one did. */
  renewed(picture: PlanarPicture): PointTracker {
    const { unit, halfAcross, halfDown } = this.template;
    const [width, height] = [2 * halfAcross * unit, 2 * halfDown * unit];
    const next = new PointTracker(picture, { x: this.pose.x - width / 2, y: this.pose.y - height / 2, width, height });
    next.speed = { ...this.speed };
    next.found = this.found;
    return next;
  }

  /** Of a region what is needed to place it more exactly: all of them are kept until it is told where it was. */
  private cropped(region: Region, { x, y }: Pose): Region {
    const { halfAcross, halfDown } = this.template;
    const [column, row] = inRegion(region, x, y).map(Math.round) as [number, number];
    return partOf(region, column, row, Math.ceil(1.45 * Math.max(halfAcross, halfDown)) + 4);
  }

  private regionOf(
    picture: PlanarPicture,
    { x, y }: Pose,
    { unit, halfAcross, halfDown }: Grid,
    reach: number,
  ): Region {
    return regionAt(picture, x, y, reach + Math.ceil(1.45 * Math.max(halfAcross, halfDown)) + 3, unit);
  }

  /** Where it is in the next picture; where it would be by how it moved, in doubt, where it is not found. */
  next(picture: PlanarPicture): Found {
    const { speed } = this;
    const { unit } = this.template;
    const steps = this.lost + 1;
    const goesOn = Math.min(steps, GOES_ON);
    const expected = {
      ...this.pose,
      x: this.pose.x + speed.x * goesOn,
      y: this.pose.y + speed.y * goesOn,
      turn: this.pose.turn + speed.turn * goesOn,
    };
    const moved = Math.hypot(speed.x, speed.y) / unit;
    const near =
      this.lost === 0 && this.found > 1 ? this.look(picture, expected, LEAST_REACH + 0.3 * moved) : undefined;
    // What strikes something comes back: as far from where it was as it would have gone on.
    const wide = LEAST_REACH + 1.3 * moved * goesOn + 4 * this.lost + (this.found < 2 ? 2 * this.radius : 0);
    const best =
      near && near.score > SURE
        ? near
        : better(near, this.look(picture, { ...expected, x: this.pose.x, y: this.pose.y }, wide));
    if (best.score < DOUBTFUL) {
      this.lost++;
      return { pose: expected, confidence: Math.max(0, best.score) };
    }
    const { pose, score, region } = best;
    const known = this.found >= 1 && this.lost === 0;
    this.speed = {
      x: (pose.x - this.pose.x) / steps,
      y: (pose.y - this.pose.y) / steps,
      turn: known ? nearTurn(pose.turn - this.pose.turn) : 0,
    };
    this.pose = pose;
    this.lost = 0;
    this.found++;
    return { pose, confidence: Math.min(1, score), region: this.cropped(region, pose) };
  }

  /** The likest pose within so many units of a place. */
  private look(picture: PlanarPicture, around: Pose, wanted: number): Seen {
    const { template } = this;
    const reach = Math.round(Math.min(MOST_REACH, wanted));
    const region = this.regionOf(picture, around, template, reach);
    const rate = (pose: Pose, by: Template): number => {
      if (Math.abs(pose.size / this.pose.size - 1) > GROWTH) return -1;
      // Of two that are as like, the one where it is expected.
      const far = Math.hypot(pose.x - around.x, pose.y - around.y) / template.unit / (reach + 1);
      return alikeness(by, takenAt(region, by, pose, undefined, by.weights)) - FAR * far * far;
    };
    const rated = (
      poses: readonly Pose[],
      by: Template,
      rounds: number,
      enough: number,
    ): { pose: Pose; score: number }[] =>
      poses
        .map((start) => refined(region, by, start, 'pose', rounds, enough))
        .map((pose) => ({ pose, score: rate(pose, by) }))
        .sort((a, b) => b.score - a.score);
    // Where it goes on as it did, it need not be looked for.
    const [straight] = rated([around], template, ROUNDS, ENOUGH);
    if (straight!.score > PLAIN) return { ...straight!, region };
    const first = rated(this.starts(region, around, reach), this.coarse, COARSE_ROUNDS, ROUGH).slice(0, FINALISTS);
    const likely = first.filter(({ score }, n) => n === 0 || first[0]!.score - score < CLOSE);
    const [best] = rated(likely.map(({ pose }) => pose), template, ROUNDS, ENOUGH); // prettier-ignore
    return { ...best!, region };
  }

  /** Poses from which it is looked for closely: as expected, and where rings look like it, turned as they look most like it. */
  private starts(region: Region, expected: Pose, reach: number): Pose[] {
    const { radius, signature } = this;
    const polar = new Polar(region, radius);
    const [mx, my] = inRegion(region, expected.x, expected.y).map(Math.round) as [number, number];
    const step = radius >= 8 ? 2 : 1;
    const half = Math.floor(reach / step);
    const side = 2 * half + 1;
    const apart = new Float32Array(side * side);
    for (let j = 0, n = 0; j < side; j++)
      for (let i = 0; i < side; i++, n++)
        apart[n] = polar.apart(signature, mx + (i - half) * step, my + (j - half) * step);
    const { left, top, unit } = region;
    const poses = lowestOf(apart, side, CANDIDATES).flatMap(([i, j]) => {
      const [x, y] = [mx + (i - half) * step, my + (j - half) * step];
      return turnsOf(signature, polar.at(x, y), TURNS).map((turn) => ({
        ...{ x: left + x * unit, y: top + y * unit, turn, size: this.pose.size },
      }));
    });
    return [expected, { ...expected, turn: this.pose.turn }, ...poses];
  }
}

/** The lowest places of a square that are lower than those around them, the lowest first. */
function lowestOf(values: Float32Array, side: number, most: number): [column: number, row: number][] {
  const found: { i: number; j: number; value: number }[] = [];
  for (let j = 0; j < side; j++) {
    for (let i = 0; i < side; i++) {
      const value = values[j * side + i]!;
      let low = true;
      for (let v = Math.max(0, j - 1); v <= Math.min(side - 1, j + 1) && low; v++)
        for (let u = Math.max(0, i - 1); u <= Math.min(side - 1, i + 1); u++)
          if (values[v * side + u]! < value) low = false;
      if (low) found.push({ i, j, value });
    }
  }
  return found.sort((a, b) => a.value - b.value).slice(0, most).map(({ i, j }) => [i, j]); // prettier-ignore
}

/** The same turn, within half of one either way. */
const nearTurn = (turn: number): number => turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));

function taken(region: Region, grid: Grid, pose: Pose): Template {
  const values = takenAt(region, grid, pose, new Float32Array(PLANES * samplesOf(grid)));
  return templateOf(grid, values, windowOf(grid));
}

/** How much samples count: those in the ellipse that fills the box, and a little beyond it. */
function windowOf(grid: Grid): Float32Array {
  const { halfAcross, halfDown } = grid;
  const weights = new Float32Array(samplesOf(grid));
  let n = 0;
  for (let v = -halfDown; v <= halfDown; v++) {
    for (let u = -halfAcross; u <= halfAcross; u++, n++) {
      const far = Math.hypot(u / halfAcross, v / halfDown);
      weights[n] = far <= 0.9 ? 1 : Math.max(0, (1.15 - far) / 0.25);
    }
  }
  return weights;
}
