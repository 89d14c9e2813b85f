import type { Region } from './region';
import { alikeness, refined, takenAt, templateOf, type Grid, type Pose, type Template } from './refine';
import { PLANES } from './region';

/** Pictures of which a model is learnt at most, evenly spread, and the rounds in which it is. */
const LEARNT_OF = 48;
const LEARNING = 7;
/** In the first of them by what stays alone: its outline, above all. */
const OUTLINES = 4;
const FEWEST = 12;
/** Radians over which something must have turned for its look to have a part that does not turn with it. */
const TURNED = 0.8;
/** Radians within which it is seen as on the picture where the box was put. */
const AS_FIRST = 0.12;
/** How often the middle is moved, and pixels by which it is tried aside. */
const CENTRINGS = 3;
const ASIDE = 0.4;
const ROUNDS = 4;
/** Samples below which a step is the last. */
const ENOUGH = 0.005;
/** Radians on both sides by which is told how a look changes as it turns. */
const NUDGE = 0.02;

/** How something looks that turns in a light that does not: what stays as it is, as gloss and shade, and what turns with it. */
interface Look {
  stays: Float32Array;
  turns: Float32Array;
}

/** Something that was found in a picture. */
export interface Seen {
  pose: Pose;
  confidence: number;
  region: Region;
}

/** A pose, and how like the look it is there, −1 to 1. */
interface Settled {
  pose: Pose;
  likeness: number;
}

/**
 * Poses of something that turned, settled by all pictures together. A first picture's gloss and shade do not turn with what it is of;
 * matched as if they did, it seems to lie aside, by up to two pixels. Parts that stay and parts that turn are told apart by what all
 * pictures have in common, turned and not (alternating least squares), and each is matched with both.
 *
 * @returns one for each; undefined where it did not turn, or was found too seldom
 */
export function settled(template: Template, found: readonly Seen[]): Settled[] | undefined {
  if (found.length < FEWEST || spreadOf(found.map(({ pose }) => pose.turn)) < TURNED) return undefined;
  const few = evenly(found, LEARNT_OF);
  let poses = few.map(({ pose }) => pose);
  let look: Look = { stays: new Float32Array(template.values.length), turns: new Float32Array(template.values.length) };
  for (let round = 0; round < LEARNING; round++) {
    look = learnt(template, few, poses, look);
    if (round < OUTLINES) look.turns.fill(0);
    poses = few.map((one, n) => placed(template, look, one, poses[n]!));
  }
  let grid = template;
  for (let round = 0; round < CENTRINGS; round++) {
    grid = trusted(template, few, poses, look);
    poses = centred(grid, few, poses, look);
    look = learnt(grid, few, poses, look);
    poses = few.map((one, n) => placed(grid, look, one, poses[n]!));
    look = learnt(grid, few, poses, look);
  }
  const all = found.map((one) => placed(grid, look, one, one.pose, 2));
  const by = aside(found, all);
  return all.map((pose, n) => ({
    pose: { ...pose, x: pose.x - by.x, y: pose.y - by.y },
    likeness: likeness(grid, look, found[n]!, pose),
  }));
}

/** How far apart the turns are that one has seen, a whole turn at most. */
function spreadOf(turns: readonly number[]): number {
  const [low, high] = turns.reduce(([a, b], turn) => [Math.min(a, turn), Math.max(b, turn)], [Infinity, -Infinity]);
  return Math.min(2 * Math.PI, high - low);
}

const evenly = <T>(all: readonly T[], most: number): T[] =>
  all.length <= most ? [...all] : Array.from({ length: most }, (_, n) => all[Math.floor((n * all.length) / most)]!);

/** A template that counts samples by how well a look explains them in all pictures: what lies behind is another in each. */
function trusted(template: Template, few: readonly Seen[], poses: readonly Pose[], look: Look): Template {
  const off = new Float32Array(template.weights.length);
  few.forEach(({ region }, n) => {
    const [seen, model] = [
      takenAt(region, template, { ...poses[n]!, turn: 0 }),
      seenAt(template, look, poses[n]!.turn),
    ];
    for (let at = 0; at < seen.length; at++) off[(at / PLANES) | 0]! += (seen[at]! - model[at]!) ** 2 / few.length;
  });
  const inside = off.filter((_, n) => template.weights[n]! > 0).sort();
  const usual = inside[inside.length >> 1]! + 1;
  return { ...template, weights: template.weights.map((weight, n) => weight * (usual / (usual + off[n]!))) };
}

/**
 * Poses about the middle that it turns about. What turns is as sharp about any other middle, and drags all poses along on a circle;
 * what stays is sharp about this one alone: the middle is moved to where the two explain most.
 */
function centred(template: Template, few: readonly Seen[], poses: readonly Pose[], look: Look): Pose[] {
  const about = (x: number, y: number): Pose[] =>
    poses.map((pose) => {
      const [cos, sin] = [Math.cos(pose.turn) - 1, Math.sin(pose.turn)];
      return { ...pose, x: pose.x + cos * x - sin * y, y: pose.y + sin * x + cos * y };
    });
  const here = unexplained(template, few, poses, look);
  const lowest = (before: number, after: number): number => {
    const curve = before + after - 2 * here;
    return curve > 0 ? Math.max(-2, Math.min(2, (before - after) / (2 * curve))) * ASIDE : 0;
  };
  const cost = (x: number, y: number): number => unexplained(template, few, about(x, y), look);
  return about(lowest(cost(-ASIDE, 0), cost(ASIDE, 0)), lowest(cost(0, -ASIDE), cost(0, ASIDE)));
}

/** What of pictures in their poses no look explains that is learnt of them. */
function unexplained(template: Template, few: readonly Seen[], poses: readonly Pose[], before: Look): number {
  const look = learnt(template, few, poses, learnt(template, few, poses, before));
  let sum = 0;
  few.forEach(({ region }, n) => {
    const [seen, model] = [
      takenAt(region, template, { ...poses[n]!, turn: 0 }),
      seenAt(template, look, poses[n]!.turn),
    ];
    for (let at = 0; at < seen.length; at++)
      sum += template.weights[(at / PLANES) | 0]! * (seen[at]! - model[at]!) ** 2;
  });
  return sum;
}

/** The parts that stay and turn, of pictures in their poses; what turned was known before, or nothing of it. */
function learnt(grid: Template, few: readonly Seen[], poses: readonly Pose[], before: Look): Look {
  const seen = few.map(({ region }, n) => takenAt(region, grid, { ...poses[n]!, turn: 0 }));
  const stays = meanOf(seen.map((values, n) => minus(values, turned(grid, before.turns, poses[n]!.turn))));
  const turns = meanOf(seen.map((values, n) => turned(grid, minus(values, stays), -poses[n]!.turn)));
  return { stays, turns };
}

function meanOf(all: readonly Float32Array[]): Float32Array {
  const mean = new Float32Array(all[0]!.length);
  for (const values of all) for (let n = 0; n < mean.length; n++) mean[n]! += values[n]! / all.length;
  return mean;
}

const minus = (a: Float32Array, b: Float32Array): Float32Array => a.map((value, n) => value - b[n]!);

/** Samples of a grid turned clockwise by an angle about their middle; what comes from outside is nothing. */
function turned({ halfAcross, halfDown }: Grid, values: Float32Array, angle: number): Float32Array {
  const [columns, rows] = [2 * halfAcross + 1, 2 * halfDown + 1];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const made = new Float32Array(values.length);
  const line = PLANES * columns;
  let to = 0;
  for (let v = -halfDown; v <= halfDown; v++) {
    for (let u = -halfAcross; u <= halfAcross; u++, to += PLANES) {
      const [x, y] = [cos * u + sin * v + halfAcross, -sin * u + cos * v + halfDown];
      if (x < 0 || y < 0 || x >= columns - 1 || y >= rows - 1) continue;
      const [i, j] = [x | 0, y | 0];
      const [fx, fy] = [x - i, y - j];
      const at = PLANES * (j * columns + i);
      for (let plane = 0; plane < PLANES; plane++) {
        const [a, c] = [values[at + plane]!, values[at + line + plane]!];
        const upper = a + (values[at + PLANES + plane]! - a) * fx;
        made[to + plane] = upper + (c + (values[at + line + PLANES + plane]! - c) * fx - upper) * fy;
      }
    }
  }
  return made;
}

/** How a look is seen at a turn. */
const seenAt = (grid: Grid, { stays, turns }: Look, turn: number): Float32Array => {
  const made = turned(grid, turns, turn);
  for (let n = 0; n < made.length; n++) made[n]! += stays[n]!;
  return made;
};

/** A pose of a look in a picture, from one nearby. */
function placed(grid: Template, look: Look, { region }: Seen, start: Pose, times = 1): Pose {
  let pose = start;
  for (let time = 0; time < times; time++) {
    const model = templateOf(grid, seenAt(grid, look, pose.turn), grid.weights);
    const { x, y } = refined(region, model, { ...pose, turn: 0 }, 'place', ROUNDS, ENOUGH);
    const there = { ...pose, x, y };
    pose = {
      ...there,
      turn: there.turn + turnLeft(grid, look, takenAt(region, grid, { ...there, turn: 0 }), model, there.turn),
    };
  }
  return pose;
}

/** By how much a look is turned further than it was taken to be. */
function turnLeft(grid: Template, look: Look, seen: Float32Array, model: Template, turn: number): number {
  const [before, after] = [-NUDGE, NUDGE].map((by) => turned(grid, look.turns, turn + by)) as [
    Float32Array,
    Float32Array,
  ];
  let [both, all] = [0, 0];
  for (let n = 0; n < seen.length; n++) {
    const slope = ((after[n]! - before[n]!) / (2 * NUDGE)) * grid.weights[(n / PLANES) | 0]!;
    both += slope * (seen[n]! - model.values[n]!);
    all += slope * slope;
  }
  return all > 0 ? Math.max(-0.2, Math.min(0.2, both / all)) : 0;
}

/** By how much all poses lie aside of those by the first picture, told by those that are turned as on it. */
function aside(found: readonly Seen[], poses: readonly Pose[]): { x: number; y: number } {
  let [sum, x, y] = [0, 0, 0];
  found.forEach((one, n) => {
    const turn = one.pose.turn - 2 * Math.PI * Math.round(one.pose.turn / (2 * Math.PI));
    const weight = Math.exp(-((turn / AS_FIRST) ** 2)) * one.confidence ** 8;
    sum += weight;
    x += weight * (poses[n]!.x - one.pose.x);
    y += weight * (poses[n]!.y - one.pose.y);
  });
  return sum > 0 ? { x: x / sum, y: y / sum } : { x: 0, y: 0 };
}

/** How alike a picture is to a look in a pose. */
const likeness = (grid: Template, look: Look, { region }: Seen, pose: Pose): number =>
  alikeness(templateOf(grid, seenAt(grid, look, pose.turn), grid.weights), takenAt(region, grid, { ...pose, turn: 0 }));
