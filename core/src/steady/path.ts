import type { EdgeWay } from '@hastig/contract';
import type { Size } from '../picture';

/** How the frames of a source are moved so that something in them stands still. */
export interface SteadyPath {
  /** The same where the path is the same. */
  key: string;
  edges: EdgeWay;
  /** How many times larger its pictures are at most. */
  times: number;
  /** Pixels of the frames, as displayed. */
  size: Size;
  /**
   * Six numbers a frame, a map from the steadied picture to the frame, in pixels: x' = a·x + c·y + e, y' = b·x + d·y + f, in the order of
   * the HTML canvas' `setTransform`.
   */
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

/** The map from a steadied picture to its frame: the frame's own move, and so many times larger about the middle. */
function mapOf({ x, y, turn, size }: FrameMove, { width, height }: Size, times: number): number[] {
  const [cx, cy] = [width / 2, height / 2];
  const scale = size / times;
  const [a, b] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
  return [a, b, -b, a, cx + x - a * cx + b * cy, cy + y - b * cx - a * cy];
}

/** The least times larger at which a moved frame leaves no edge to be seen. */
export function timesFor({ x, y, turn, size }: FrameMove, { width, height }: Size): number {
  // All four corners must lie in the frame: |x| + reach across ≤ half the width, and so downwards.
  const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
  const across = (size * (cos * width + sin * height)) / 2;
  const down = (size * (sin * width + cos * height)) / 2;
  const [roomX, roomY] = [width / 2 - Math.abs(x), height / 2 - Math.abs(y)];
  if (roomX <= 0 || roomY <= 0) return Infinity;
  return Math.max(across / roomX, down / roomY);
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
 * A path of moves, one a frame.
 *
 * @param used the frames whose edges must not be seen: the part that is shown
 */
export function steadyPath(
  moves: readonly FrameMove[],
  size: Size,
  edges: EdgeWay,
  key: string,
  used: { from: number; to: number } = { from: 0, to: moves.length },
): SteadyPath {
  const needs = moves.map((move) => Math.max(1, timesFor(move, size)));
  const shown = needs.slice(Math.max(0, used.from), Math.max(used.from + 1, used.to));
  // There may be more frames than a function takes arguments.
  const most = shown.reduce((one, other) => Math.max(one, other), 1);
  const fits = most <= MOST_ENLARGED;
  const way = edges !== 'mirror' && fits ? edges : 'mirror';
  const each = way === 'follow' ? following(needs.map((need) => Math.min(need, MOST_ENLARGED))) : undefined;
  const times = way === 'scale' ? most : 1;
  const maps = Float64Array.from(moves.flatMap((move, n) => mapOf(move, size, each?.[n] ?? times)));
  return { key, edges: way, times: way === 'mirror' ? 1 : most, size, maps };
}

/** Moves that hold one point where it is in a frame, or two points where they are, turn and size too. */
export function holding(points: readonly (readonly HeldPoint[])[], size: Size, at: number): FrameMove[] {
  const held = points.map((track) => track[at]!);
  return points[0]!.map((_, n) => {
    const now = points.map((track) => track[n]!);
    return now.length > 1 ? bothHeld(held, now, size) : oneHeld(held[0]!, now[0]!);
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
