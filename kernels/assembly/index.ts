import { clampF, floats, getF, mark, objectsMade, release, releaseAll, setF, take } from './memory';
import { flowBetween } from './flow';
import { findMiss, findMovement, Movement } from './movement';
import { fillPyramid, levelCount, Pyramid } from './pyramid';
import { findEdges, warpPlane } from './warp';

export {
  addToLightest,
  addToMean,
  brightAt,
  changeLight,
  darkAt,
  lightsAt,
  litValuesAt,
  makeMean,
  meanAt,
  numbersAt,
  openMean,
  sumAll,
  takeLightest,
} from './light';
export { cubicAt, moveSteady, openSteady, steadyFrom, steadyTo } from './steady';
export { makePlanes, openPlanes, planesAt, pixelsAt, shares } from './planes';

/** What `core/src/flow/in-between.ts` does, with the numbers of that file. */
const SMALL: i32 = 480;
const LARGE: i32 = 1440;
const ASTRAY: f32 = 2;
const LOST: f32 = 0.7;
const CUT: f32 = 8;

let width: i32 = 0;
let height: i32 = 0;
let finest: i32 = 0;
let columns: i32 = 0;
let rows: i32 = 0;
let first: usize = 0;
let second: usize = 0;
let made: usize = 0;
let forthX: usize = 0;
let forthY: usize = 0;
let forthMiss: usize = 0;
let backX: usize = 0;
let backY: usize = 0;
let backMiss: usize = 0;
let edges: usize = 0;
const a = new Pyramid();
const b = new Pyramid();
const move = new Movement();
let doubt: f32 = 0;
objectsMade();

function levelOf(w: i32, h: i32): i32 {
  const side = max(w, h);
  if (side <= SMALL) return 0;
  let level = 1;
  for (let most = LARGE; side > most; most *= 2) level++;
  return level;
}

/** Makes room for two pictures of a size, and what is found of them. */
export function open(w: i32, h: i32): void {
  releaseAll();
  width = w;
  height = h;
  const bytes = <usize>(w * h + 2 * ((w + 1) >> 1) * ((h + 1) >> 1));
  first = take(bytes);
  second = take(bytes);
  made = take(bytes);
  finest = min(levelOf(w, h), levelCount(w, h) - 1);
  columns = w >> finest;
  rows = h >> finest;
  const count = columns * rows;
  forthX = floats(count);
  forthY = floats(count);
  forthMiss = floats(count);
  backX = floats(count);
  backY = floats(count);
  backMiss = floats(count);
  move.firstX = floats(count);
  move.firstY = floats(count);
  move.secondX = floats(count);
  move.secondY = floats(count);
  move.firstPart = floats(count);
  move.secondPart = floats(count);
  edges = take(<usize>count);
}

/** Where the planes of both pictures are written, and those of the made one are read. */
export function firstAt(): usize {
  return first;
}
export function secondAt(): usize {
  return second;
}
export function madeAt(): usize {
  return made;
}

function lostOf(miss: usize): f32 {
  const count = columns * rows;
  let lost = 0;
  for (let n = 0; n < count; n++) if (getF(miss, n) > ASTRAY) lost++;
  return <f32>lost / <f32>count;
}

function differenceOf(one: usize, other: usize): f32 {
  const count = columns * rows;
  let sum: i32 = 0;
  for (let n = 0; n < count; n++) sum += <i32>load<u8>(other + <usize>n) - <i32>load<u8>(one + <usize>n);
  const mean = <f32>sum / <f32>count;
  let total: f64 = 0;
  for (let n = 0; n < count; n++)
    total += abs<f32>(<f32>(<i32>load<u8>(other + <usize>n) - <i32>load<u8>(one + <usize>n)) - mean);
  return <f32>(total / count);
}

/** Steps of a flow in a pixel of its grid, as many as are kept, and the most of it in 16 bits. */
const STEPS: f32 = 64;
const MOST_STEPS: f32 = 32767;

/** Brings a flow to whole steps, so that what is kept is what was found. */
function stepped(flow: usize): void {
  const count = columns * rows;
  for (let n = 0; n < count; n++)
    setF(flow, n, clampF(nearest<f32>(getF(flow, n) * STEPS), -MOST_STEPS, MOST_STEPS) / STEPS);
}

/** Compares both flows with each other: those that were found, or were written to their places. */
export function settle(): void {
  findMiss(forthX, forthY, backX, backY, columns, rows, forthMiss);
  findMiss(backX, backY, forthX, forthY, columns, rows, backMiss);
}

/** Finds what moved between the two pictures; says whether a cut lies between them. */
export function find(): bool {
  const before = mark();
  fillPyramid(a, first, width, height);
  fillPyramid(b, second, width, height);
  flowBetween(a, b, finest, forthX, forthY);
  flowBetween(b, a, finest, backX, backY);
  stepped(forthX);
  stepped(forthY);
  stepped(backX);
  stepped(backY);
  settle();
  const cut =
    lostOf(forthMiss) > LOST && lostOf(backMiss) > LOST && differenceOf(a.data[finest], b.data[finest]) > CUT;
  release(before);
  return cut;
}

/** Makes the picture at a moment between them; what was not believed of it is in `doubtOf`. */
export function make(share: f32): void {
  findMovement(move, columns, rows, forthX, forthY, forthMiss, backX, backY, backMiss, share);
  findEdges(move, columns, rows, share, edges);
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const luma = <usize>(width * height);
  const chroma = <usize>(w * h);
  doubt = warpPlane(first, second, width, height, move, edges, columns, rows, share, made);
  warpPlane(first + luma, second + luma, w, h, move, edges, columns, rows, share, made + luma);
  const last = luma + chroma;
  warpPlane(first + last, second + last, w, h, move, edges, columns, rows, share, made + last);
}

/** The share of the last picture that could not be made of what moved. */
export function doubtOf(): f32 {
  return doubt;
}

/** What moved from the first to the second, and by how much the way back misses where it began: a float for each place of a grid. */
export function movedX(): usize {
  return forthX;
}
export function movedY(): usize {
  return forthY;
}
export function movedMiss(): usize {
  return forthMiss;
}

/** What moved from the second to the first. */
export function backMovedX(): usize {
  return backX;
}
export function backMovedY(): usize {
  return backY;
}
export function gridColumns(): i32 {
  return columns;
}
export function gridRows(): i32 {
  return rows;
}
