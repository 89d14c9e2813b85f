import type { EdgeWay } from '@hastig/contract';
import { cornersOfSize, MAP_NUMBERS, planeAfter, type PlaneMap, type Size } from '../picture';

/** How the frames of a source are moved so that something in them stands still. */
export interface SteadyPath {
  /** The same where the path is the same. */
  key: string;
  edges: EdgeWay;
  /** How many times larger its pictures are at most. */
  times: number;
  /** Pixels of the frames, as displayed. */
  size: Size;
  /** The frame of the first map: those before it, and after the last one, are moved as the nearest. */
  from: number;
  /** Eight numbers a frame: a map from the steadied picture to the frame, in pixels, as a `PlaneMap` has them. */
  maps: Float64Array;
}

/** Most times as large as a picture is made for its edges not to be seen; beyond that they are mirrored. */
const MOST_ENLARGED = 4;

/** A point of each frame, in pixels of the picture as displayed. */
interface HeldPoint {
  x: number;
  y: number;
}

/** How a frame is to be moved, turned and scaled: a shift after a turn (radians) and a size about its middle. */
export interface FrameMove {
  x: number;
  y: number;
  turn: number;
  size: number;
}

/** The map from a steadied picture to its frame. */
export function moveMap({ x, y, turn, size }: FrameMove, { width, height }: Size): PlaneMap {
  const [cx, cy] = [width / 2, height / 2];
  const [a, b] = [Math.cos(turn) * size, Math.sin(turn) * size];
  return [a, b, -b, a, cx + x - a * cx + b * cy, cy + y - b * cx - a * cy, 0, 0];
}

/** The same, so many times larger about the middle. */
function enlarged(map: PlaneMap, times: number, { width, height }: Size): PlaneMap {
  const left = 1 - 1 / times;
  return planeAfter(map, [1 / times, 0, 0, 1 / times, (left * width) / 2, (left * height) / 2, 0, 0]);
}

/** The least times larger at which a moved frame leaves no edge to be seen; Infinity where its middle lies outside. */
export function timesFor([a, b, c, d, e, f, g, h]: PlaneMap, size: Size): number {
  const [cx, cy] = [size.width / 2, size.height / 2];
  // On the way from the middle to a corner, what is over and under the line of each number goes evenly.
  const [over, down, under] = [a * cx + c * cy + e, b * cx + d * cy + f, g * cx + h * cy + 1];
  let least = 1;
  for (const { x, y } of cornersOfSize(size)) {
    const [dx, dy] = [x - cx, y - cy];
    const [goesOver, goesDown, goesUnder] = [a * dx + c * dy, b * dx + d * dy, g * dx + h * dy];
    for (const [inside, goes] of [
      [over, goesOver],
      [size.width * under - over, size.width * goesUnder - goesOver],
      [down, goesDown],
      [size.height * under - down, size.height * goesUnder - goesDown],
    ] as const) {
      if (inside <= 0) return Infinity;
      if (inside + goes < 0) least = Math.min(least, -inside / goes);
    }
  }
  return 1 / least;
}

/** Frames on both sides over which a size that follows is evened out. */
const FOLLOWED = 24;

/** Sizes of at least as much as is needed, that change slowly: the most around each, evened out. */
function following(needs: readonly number[]): number[] {
  const around = (values: readonly number[], n: number): number[] =>
    values.slice(Math.max(0, n - FOLLOWED), n + FOLLOWED + 1);
  const most = needs.map((_, n) => Math.max(...around(needs, n)));
  return most.map((_, n) => {
    const near = around(most, n);
    return near.reduce((sum, value) => sum + value, 0) / near.length;
  });
}

/**
 * A path of maps from the steadied picture to each frame.
 *
 * @param from the frame of the first one
 * @param used the frames whose edges must not be seen: the part that is shown; all unless told
 */
export function steadyPath(
  maps: readonly PlaneMap[],
  size: Size,
  edges: EdgeWay,
  { from = 0, used, key = '' }: { from?: number; used?: { from: number; to: number }; key?: string } = {},
): SteadyPath {
  const needs = maps.map((map) => timesFor(map, size));
  const within = (frame: number): number => Math.min(maps.length - 1, Math.max(0, frame - from));
  const shown = used ? needs.slice(within(used.from), within(used.to - 1) + 1) : needs;
  // There may be more frames than a function takes arguments.
  const most = shown.reduce((one, other) => Math.max(one, other), 1);
  const fits = most <= MOST_ENLARGED;
  const way = edges !== 'mirror' && fits ? edges : 'mirror';
  const each = way === 'follow' ? following(needs.map((need) => Math.min(need, MOST_ENLARGED))) : undefined;
  const times = way === 'scale' ? most : 1;
  const made = new Float64Array(MAP_NUMBERS * maps.length);
  maps.forEach((map, n) => made.set(enlarged(map, each?.[n] ?? times, size), MAP_NUMBERS * n));
  return { key, edges: way, times: way === 'mirror' ? 1 : most, size, from, maps: made };
}

/** The map of a frame. */
export function mapOfFrame({ maps, from }: SteadyPath, frame: number): PlaneMap {
  const at = MAP_NUMBERS * Math.min(maps.length / MAP_NUMBERS - 1, Math.max(0, frame - from));
  return maps.subarray(at, at + MAP_NUMBERS) as unknown as PlaneMap;
}

/** Maps that hold one point where it is in a frame, or two points where they are, turn and size too. */
export function holding(points: readonly (readonly HeldPoint[])[], size: Size, at: number): PlaneMap[] {
  const held = points.map((track) => track[at]!);
  return points[0]!.map((_, n) => {
    const now = points.map((track) => track[n]!);
    return moveMap(now.length > 1 ? bothHeld(held, now, size) : oneHeld(held[0]!, now[0]!), size);
  });
}

const oneHeld = (held: HeldPoint, now: HeldPoint): FrameMove => ({
  x: now.x - held.x,
  y: now.y - held.y,
  turn: 0,
  size: 1,
});

function bothHeld([a, b]: readonly HeldPoint[], [p, q]: readonly HeldPoint[], { width, height }: Size): FrameMove {
  const [hx, hy] = [b!.x - a!.x, b!.y - a!.y];
  const [nx, ny] = [q!.x - p!.x, q!.y - p!.y];
  const [held, now] = [Math.hypot(hx, hy), Math.hypot(nx, ny)];
  if (held < 1e-6 || now < 1e-6) return oneHeld(a!, p!);
  const turn = Math.atan2(hx * ny - hy * nx, hx * nx + hy * ny);
  const size = now / held;
  // Where the middle of the two goes, told about the middle of the frame.
  const [mx, my] = [(a!.x + b!.x) / 2 - width / 2, (a!.y + b!.y) / 2 - height / 2];
  const [cos, sin] = [Math.cos(turn) * size, Math.sin(turn) * size];
  return {
    x: (p!.x + q!.x) / 2 - width / 2 - (cos * mx - sin * my),
    y: (p!.y + q!.y) / 2 - height / 2 - (sin * mx + cos * my),
    ...{ turn, size },
  };
}
