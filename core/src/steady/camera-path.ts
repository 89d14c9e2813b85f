import type { Smooth } from '@hastig/contract';
import type { CameraMove } from '../camera';
import {
  cornersOfSize,
  planeAfter,
  planeIdentity,
  planeInverse,
  planeOfCorners,
  planePoint,
  type PlaneMap,
  type Size,
} from '../picture';
import { moveMap, type FrameMove } from './path';
import { smoothed } from './smoother';

/** How much a frame counts that is in doubt, beside one that is sure; and the confidence of a sure one. */
const DOUBT_COUNTS = 0.05;
const SURE = 0.4;

/**
 * Where a camera is: what is in the middle of its picture, how it is turned, and how large a pixel is (its logarithm), in the plane of a
 * first frame; and by how much its corners lie off that, added up (four places).
 */
type Poses = readonly Float64Array[];
const [ACROSS, DOWN, TURN, GROWN] = [0, 1, 2, 3] as const;
const PLAIN = 4;
const NUMBERS = PLAIN + 8;

/** The movement, turn and size that is nearest to a map at a picture's corners: about the middle, then aside. */
function plainPart(map: PlaneMap, size: Size): FrameMove {
  const [cx, cy] = [size.width / 2, size.height / 2];
  let [x, y, a, b, all] = [0, 0, 0, 0, 0];
  for (const corner of cornersOfSize(size)) {
    const to = planePoint(map, corner);
    const [u, v] = [corner.x - cx, corner.y - cy];
    x += (to.x - cx) / 4;
    y += (to.y - cy) / 4;
    a += u * (to.x - cx) + v * (to.y - cy);
    b += u * (to.y - cy) - v * (to.x - cx);
    all += u * u + v * v;
  }
  return { x, y, turn: Math.atan2(b, a), size: Math.hypot(a, b) / all };
}

/** Where the camera is in each frame, by how it moves to each; each stretch that hangs together begins anew. */
function posesOf(moves: readonly CameraMove[], size: Size): Poses {
  const poses = Array.from({ length: NUMBERS }, () => new Float64Array(moves.length));
  const corners = cornersOfSize(size);
  moves.forEach(({ map, confidence }, n) => {
    if (confidence === 0 || n === 0) return;
    const plain = plainPart(map, size);
    const [before, turn, grown] = [n - 1, poses[TURN]!, poses[GROWN]!];
    turn[n] = turn[before]! - plain.turn;
    grown[n] = grown[before]! - Math.log(plain.size);
    const [cos, sin] = [Math.cos(turn[n]!) * Math.exp(grown[n]!), Math.sin(turn[n]!) * Math.exp(grown[n]!)];
    poses[ACROSS]![n] = poses[ACROSS]![before]! - (cos * plain.x - sin * plain.y);
    poses[DOWN]![n] = poses[DOWN]![before]! - (sin * plain.x + cos * plain.y);
    const back = moveMap(plain, size);
    corners.forEach((corner, k) => {
      const [to, flat] = [planePoint(map, corner), planePoint(back, corner)];
      poses[PLAIN + 2 * k]![n] = poses[PLAIN + 2 * k]![before]! + to.x - flat.x;
      poses[PLAIN + 2 * k + 1]![n] = poses[PLAIN + 2 * k + 1]![before]! + to.y - flat.y;
    });
  });
  return poses;
}

/** Stretches of frames that hang together. */
function stretchesOf(moves: readonly CameraMove[]): { from: number; to: number }[] {
  const starts = moves.flatMap(({ confidence }, n) => (n === 0 || confidence === 0 ? [n] : []));
  return starts.map((from, index) => ({ from, to: starts[index + 1] ?? moves.length }));
}

/** What of a camera's way is told of it. */
export interface CameraWay {
  /** Where what is in the middle of the picture is, before and after, in pixels of a first frame. */
  before: readonly { x: number; y: number }[];
  after: readonly { x: number; y: number }[];
  /** Maps from the steadied picture to each frame. */
  maps: readonly PlaneMap[];
}

/**
 * How frames are moved so that their camera goes smoothly, or stands.
 *
 * @param moves from each frame to the next, `rate` of them a second
 * @param frame on which it stands, among them
 */
export function smoothedWay(
  moves: readonly CameraMove[],
  size: Size,
  { seconds, model }: Pick<Smooth, 'seconds' | 'model'>,
  rate: number,
  frame: number,
): CameraWay {
  const poses = posesOf(moves, size);
  const goal = poses.map((row) => row.slice());
  for (const { from, to } of stretchesOf(moves)) {
    if (seconds === undefined) {
      const stands = frame >= from && frame < to ? frame : from;
      goal.forEach((row, number) => row.fill(poses[number]![stands]!, from, to));
      continue;
    }
    const weights = Float64Array.from(moves.slice(from, to), ({ confidence }, n) =>
      n === 0 || confidence >= SURE ? 1 : DOUBT_COUNTS,
    );
    const rows = poses.map((row) => row.subarray(from, to));
    smoothed(rows, weights, seconds * rate).forEach((row, number) => goal[number]!.set(row, from));
  }
  const place = (rows: Poses, n: number): { x: number; y: number } => ({ x: rows[ACROSS]![n]!, y: rows[DOWN]![n]! });
  return {
    before: moves.map((_, n) => place(poses, n)),
    after: moves.map((_, n) => place(goal, n)),
    maps: moves.map((_, n) => mapAt(poses, goal, n, size, model === 'perspective')),
  };
}

/** The map from a picture whose camera is where it should be to the frame, whose camera is where it was. */
function mapAt(poses: Poses, goal: Poses, n: number, size: Size, perspective: boolean): PlaneMap {
  const at = (rows: Poses): PlaneMap =>
    moveMap(
      { x: rows[ACROSS]![n]!, y: rows[DOWN]![n]!, turn: rows[TURN]![n]!, size: Math.exp(rows[GROWN]![n]!) },
      size,
    );
  const back = planeInverse(at(poses));
  const plain = back ? planeAfter(back, at(goal)) : planeIdentity;
  if (!perspective) return plain;
  const corners = cornersOfSize(size).map(({ x, y }, k) => ({
    x: x + poses[PLAIN + 2 * k]![n]! - goal[PLAIN + 2 * k]![n]!,
    y: y + poses[PLAIN + 2 * k + 1]![n]! - goal[PLAIN + 2 * k + 1]![n]!,
  }));
  const tilted = planeOfCorners(size, corners);
  return tilted ? planeAfter(tilted, plain) : plain;
}
