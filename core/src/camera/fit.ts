import { planeAfter, type PlaneMap, type Point, type Size } from '../picture';
import { solved } from '../track/solve';

/** Pairs that are tried as a first guess, and how far off a place may be that agrees with one, in its own spreads. */
const TRIES = 160;
const AGREES = 3;
/** Brightness by which pictures are noisy, and pixels by which a place may go another way than the whole and still count. */
const NOISE = 3;
const OWN_WAY = 0.25;
/** Rounds in which what agrees is fitted anew, and the least spread that is taken. */
const ROUNDS = 5;
const LEAST_SPREAD = 0.2;
/** How much what is not a movement, turn or size of the whole is held back: no more than counts where few places are. */
const HELD_BACK = 2e-3;
/** Fewest places that tell a movement, and that tell its perspective. */
const FEWEST = 10;
const FEWEST_PERSPECTIVE = 24;

/** Where places are in two pictures, and how surely each is told both ways: the inverse of its spread (three numbers: across², both, down²). */
export class Pairs {
  private readonly all: number[] = [];

  get count(): number {
    return this.all.length / 7;
  }

  /** @param xx sums of how much brightness changes around it: what is a line is told across it alone */
  add(from: Point, to: Point, { xx, xy, yy }: { xx: number; xy: number; yy: number }): void {
    // The spread of a place (Förstner 1987): noise over how much brightness changes, and what it may go by itself.
    const det = (xx * yy - xy * xy) / (NOISE * NOISE);
    const [a, b, c] = [yy / det + OWN_WAY ** 2, -xy / det, xx / det + OWN_WAY ** 2];
    const whole = a * c - b * b;
    this.all.push(from.x, from.y, to.x, to.y, c / whole, -b / whole, a / whole);
  }

  /** Seven numbers each: from across and down, to across and down, and how surely. */
  get numbers(): Float64Array {
    return Float64Array.from(this.all);
  }
}

const EACH = 7;

/** A movement of most places. */
interface Fitted {
  map: PlaneMap;
  /** Places that agree with it. */
  agree: number;
}

/**
 * The movement of a picture that most places tell, whatever the others do: a turn and a size through two of them that most agree with
 * (random sample consensus, Fischler and Bolles 1981, scored as Torr and Zisserman 2000 do), then what fits all that agree, in perspective,
 * by Tukey's weights.
 *
 * @param size of the pictures
 * @returns nothing where too few agree
 */
export function fitMovement(pairs: Pairs, size: Size): Fitted | undefined {
  if (pairs.count < FEWEST) return undefined;
  const places = pairs.numbers;
  const start = firstGuess(places, size);
  if (!start) return undefined;
  // Places count from the middle, half the width being 1.
  const unit = size.width / 2;
  let params = startParams(start, size);
  const off = new Float64Array(pairs.count);
  const perspective = agreeing(places, params, size, off) >= FEWEST_PERSPECTIVE;
  for (let round = 0; round < ROUNDS; round++) {
    const near = off.filter((one) => one < 2 * AGREES).sort();
    if (near.length < FEWEST) return undefined;
    const spread = Math.max(LEAST_SPREAD, 1.4826 * near[near.length >> 1]!);
    const next = stepped(places, params, size, off, 4.685 * spread, perspective);
    if (!next) break;
    params = next;
    agreeing(places, params, size, off);
  }
  const agree = agreeing(places, params, size, off);
  if (agree < FEWEST) return undefined;
  return { map: mapOf(params, size, unit), agree };
}

/** A movement of which pictures are told, x' = a·x − b·y + e, y' = b·x + a·y + f. */
interface Guess {
  a: number;
  b: number;
  e: number;
  f: number;
}

function firstGuess(places: Float64Array, { width }: Size): Guess | undefined {
  const count = places.length / EACH;
  let best: Guess | undefined;
  let least = Infinity;
  let state = 12_345;
  const draw = (): number => EACH * ((state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) % count);
  for (let n = 0; n < TRIES; n++) {
    const [i, j] = [draw(), draw()];
    const [dx, dy] = [places[j]! - places[i]!, places[j + 1]! - places[i + 1]!];
    const far = dx * dx + dy * dy;
    // Two that are near each other tell neither turn nor size.
    if (far < (width / 8) ** 2) continue;
    const [px, py] = [places[j + 2]! - places[i + 2]!, places[j + 3]! - places[i + 3]!];
    const [a, b] = [(px * dx + py * dy) / far, (py * dx - px * dy) / far];
    const e = places[i + 2]! - a * places[i]! + b * places[i + 1]!;
    const f = places[i + 3]! - b * places[i]! - a * places[i + 1]!;
    let off = 0;
    for (let k = 0; k < places.length && off < least; k += EACH) {
      const [x, y] = [places[k]!, places[k + 1]!];
      const [ex, ey] = [a * x - b * y + e - places[k + 2]!, b * x + a * y + f - places[k + 3]!];
      off += Math.min(AGREES * AGREES, farOf(places, k, ex, ey));
    }
    if (off < least) [best, least] = [{ a, b, e, f }, off];
  }
  return best;
}

/** How far off a place is, squared, in its own spreads. */
const farOf = (places: Float64Array, k: number, ex: number, ey: number): number =>
  ex * ex * places[k + 4]! + 2 * ex * ey * places[k + 5]! + ey * ey * places[k + 6]!;

/** Eight numbers, u' = (p0·u + p1·v + p2) / w, v' = (p3·u + p4·v + p5) / w, w = 1 + p6·u + p7·v. */
function startParams({ a, b, e, f }: Guess, { width, height }: Size): Float64Array {
  const [cx, cy, unit] = [width / 2, height / 2, width / 2];
  return Float64Array.of(
    ...[a, -b, (a * cx - b * cy + e - cx) / unit],
    ...[b, a, (b * cx + a * cy + f - cy) / unit],
    ...[0, 0],
  );
}

/** How many places agree; how far off each is, in its own spreads, is written. */
function agreeing(places: Float64Array, p: Float64Array, { width, height }: Size, off: Float64Array): number {
  const [cx, cy, unit] = [width / 2, height / 2, width / 2];
  let agree = 0;
  for (let n = 0, k = 0; n < off.length; n++, k += EACH) {
    const [u, v] = [(places[k]! - cx) / unit, (places[k + 1]! - cy) / unit];
    const w = 1 + p[6]! * u + p[7]! * v;
    const ex = ((p[0]! * u + p[1]! * v + p[2]!) / w) * unit + cx - places[k + 2]!;
    const ey = ((p[3]! * u + p[4]! * v + p[5]!) / w) * unit + cy - places[k + 3]!;
    off[n] = Math.sqrt(farOf(places, k, ex, ey));
    if (off[n]! < AGREES) agree++;
  }
  return agree;
}

/** One step of Gauss and Newton. */
function stepped(
  places: Float64Array,
  p: Float64Array,
  { width, height }: Size,
  off: Float64Array,
  reach: number,
  perspective: boolean,
): Float64Array | undefined {
  const [cx, cy, unit] = [width / 2, height / 2, width / 2];
  const [h, g] = [new Float64Array(64), new Float64Array(8)];
  const [across, down] = [new Float64Array(8), new Float64Array(8)];
  const add = (row: Float64Array, other: Float64Array, far: number, weight: number): void => {
    for (let i = 0; i < 8; i++) {
      if (row[i] === 0) continue;
      g[i]! -= weight * row[i]! * far;
      for (let j = 0; j <= i; j++) h[8 * i + j]! += weight * row[i]! * other[j]!;
    }
  };
  for (let n = 0, k = 0; n < off.length; n++, k += EACH) {
    const share = off[n]! / reach;
    if (share >= 1) continue;
    const weight = (1 - share * share) ** 2;
    const [u, v] = [(places[k]! - cx) / unit, (places[k + 1]! - cy) / unit];
    const w = 1 + p[6]! * u + p[7]! * v;
    const [x, y] = [(p[0]! * u + p[1]! * v + p[2]!) / w, (p[3]! * u + p[4]! * v + p[5]!) / w];
    const [ex, ey] = [x - (places[k + 2]! - cx) / unit, y - (places[k + 3]! - cy) / unit];
    across.set([u / w, v / w, 1 / w, 0, 0, 0, (-x * u) / w, (-x * v) / w]);
    down.set([0, 0, 0, u / w, v / w, 1 / w, (-y * u) / w, (-y * v) / w]);
    // As it counts both ways at once.
    add(across, across, ex, weight * places[k + 4]!);
    add(across, down, ey, weight * places[k + 5]!);
    add(down, across, ex, weight * places[k + 5]!);
    add(down, down, ey, weight * places[k + 6]!);
  }
  // What is not the whole's own movement costs something; where perspective is not to be told, all that there is.
  const cost = perspective ? HELD_BACK / OWN_WAY ** 2 : 1e5;
  for (const [row, far] of [
    [[1, 0, 0, 0, -1, 0, 0, 0], p[0]! - p[4]!],
    [[0, 1, 0, 1, 0, 0, 0, 0], p[1]! + p[3]!],
    [[0, 0, 0, 0, 0, 0, 1, 0], p[6]!],
    [[0, 0, 0, 0, 0, 0, 0, 1], p[7]!],
  ] as const) {
    across.set(row);
    add(across, across, far, cost);
  }
  const step = solved(h, g, 8);
  return step && p.map((value, n) => value + step[n]!);
}

function mapOf(p: Float64Array, size: Size, unit: number): PlaneMap {
  const into: PlaneMap = [1 / unit, 0, 0, 1 / unit, -1, -size.height / 2 / unit, 0, 0];
  const back: PlaneMap = [unit, 0, 0, unit, size.width / 2, size.height / 2, 0, 0];
  return planeAfter(back, planeAfter([p[0]!, p[3]!, p[1]!, p[4]!, p[2]!, p[5]!, p[6]!, p[7]!], into));
}
