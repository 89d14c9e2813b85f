import { PLANES, type Region } from './region';
import { solved } from './solve';

/** How what is tracked lies in a picture: its middle, in pixels; turned clockwise, in radians; so many times as large. */
export interface Pose {
  x: number;
  y: number;
  turn: number;
  size: number;
}

/** Where samples lie around a middle. */
export interface Grid {
  /** Pixels of the picture, at its own size, from sample to sample. */
  unit: number;
  /** Samples to each side of the middle, across and down. */
  halfAcross: number;
  halfDown: number;
}

/** What is looked for: samples around its middle. */
export interface Template extends Grid {
  /** Y, Cb, Cr of each sample, in rows. */
  values: Float32Array;
  /** How they rise to the right and downwards, from sample to sample. */
  right: Float32Array;
  down: Float32Array;
  /** How much each sample counts. */
  weights: Float32Array;
}

export const samplesOf = ({ halfAcross, halfDown }: Pick<Grid, 'halfAcross' | 'halfDown'>): number =>
  (2 * halfAcross + 1) * (2 * halfDown + 1);

/** A template of samples, each with how it differs from those beside it. */
export function templateOf(grid: Grid, values: Float32Array, weights: Float32Array): Template {
  const { halfAcross, halfDown, unit } = grid;
  const [columns, rows] = [2 * halfAcross + 1, 2 * halfDown + 1];
  const [right, down] = [new Float32Array(values.length), new Float32Array(values.length)];
  for (let row = 0; row < rows; row++) {
    const [above, below] = [Math.max(0, row - 1), Math.min(rows - 1, row + 1)];
    for (let column = 0; column < columns; column++) {
      const [before, after] = [Math.max(0, column - 1), Math.min(columns - 1, column + 1)];
      for (let plane = 0; plane < PLANES; plane++) {
        const at = (r: number, c: number): number => values[(r * columns + c) * PLANES + plane]!;
        const n = (row * columns + column) * PLANES + plane;
        right[n] = (at(row, after) - at(row, before)) / (after - before);
        down[n] = (at(below, column) - at(above, column)) / (below - above);
      }
    }
  }
  return { unit, halfAcross, halfDown, values, right, down, weights };
}

/** What a region shows at each sample of a grid that lies in a pose: Y, Cb, Cr of each; at its edges it goes on. */
export function takenAt(
  region: Region,
  grid: Grid,
  pose: Pose,
  taken = new Float32Array(PLANES * samplesOf(grid)),
  weights?: Float32Array,
): Float32Array {
  const { values, columns, rows, left, top, unit } = region;
  const { halfAcross, halfDown } = grid;
  const step = (grid.unit * pose.size) / unit;
  const [cos, sin] = [Math.cos(pose.turn) * step, Math.sin(pose.turn) * step];
  const [mx, my] = [(pose.x - left) / unit, (pose.y - top) / unit];
  const [lastX, lastY] = [columns - 1.001, rows - 1.001];
  const line = PLANES * columns;
  let n = 0;
  for (let v = -halfDown; v <= halfDown; v++) {
    let x = mx - cos * halfAcross - sin * v;
    let y = my - sin * halfAcross + cos * v;
    for (let u = -halfAcross; u <= halfAcross; u++, n++, x += cos, y += sin) {
      if (weights && weights[n] === 0) continue;
      const cx = x < 0 ? 0 : x > lastX ? lastX : x;
      const cy = y < 0 ? 0 : y > lastY ? lastY : y;
      const [i, j] = [cx | 0, cy | 0];
      const [fx, fy] = [cx - i, cy - j];
      const at = PLANES * (j * columns + i);
      const to = PLANES * n;
      for (let plane = 0; plane < PLANES; plane++) {
        const a = values[at + plane]!;
        const c = values[at + line + plane]!;
        const upper = a + (values[at + PLANES + plane]! - a) * fx;
        const lower = c + (values[at + line + PLANES + plane]! - c) * fx;
        taken[to + plane] = upper + (lower - upper) * fy;
      }
    }
  }
  return taken;
}

/** How alike a template and what was taken are, −1 to 1: correlation of all planes together, each about its own mean. */
export function alikeness({ values, weights }: Template, taken: Float32Array): number {
  const count = weights.length;
  let [both, one, other] = [0, 0, 0];
  for (let plane = 0; plane < PLANES; plane++) {
    let [sum, a, b, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
    for (let n = 0, at = plane; n < count; n++, at += PLANES) {
      const weight = weights[n]!;
      const [p, q] = [values[at]!, taken[at]!];
      sum += weight;
      a += weight * p;
      b += weight * q;
      aa += weight * p * p;
      bb += weight * q * q;
      ab += weight * p * q;
    }
    both += ab - (a * b) / sum;
    one += aa - (a * a) / sum;
    other += bb - (b * b) / sum;
    // Colour that is another one is not alike, however it varies.
    if (plane > 0) other += ((a - b) * (a - b)) / sum;
  }
  return both / Math.sqrt(Math.max(1e-9, one * other));
}

/** What is sought of a pose: where it lies; or how it is turned and how large it is, too. */
type Freedom = 'place' | 'pose';

/** A residual of so many grey values counts a quarter (Geman and McClure's function, as in Black and Anandan 1996). */
const DOUBTED = 24;
/** Gains are sought in steps that are like those of a place. */
const GAIN_STEP = 64;
/** Most that a pose moves in one round, in samples. */
const MOST_STEP = 3;
const MOST_GROWTH = 0.2;

const limited = (value: number): number => Math.max(-MOST_STEP, Math.min(MOST_STEP, value));

/**
 * Brings a pose to where what is seen there differs least from a template: Gauss–Newton steps of translation, turn, size, and gain
 * and offset of brightness, on the template's own slopes (inverse compositional: Baker and Matthews, "Lucas–Kanade 20 Years On",
 * 2004), residuals weighed robustly.
 *
 * @param rounds at most
 * @param enough samples below which a step is the last
 */
export function refined(
  region: Region,
  template: Template,
  start: Pose,
  freedom: Freedom,
  rounds: number,
  enough: number,
): Pose {
  let pose = start;
  const { halfAcross, halfDown, unit, values } = template;
  const reach = Math.hypot(halfAcross, halfDown);
  const [h, g] = [new Float64Array(36), new Float64Array(6)];
  const taken = new Float32Array(values.length);
  for (let round = 0; round < rounds; round++) {
    takenAt(region, template, pose, taken, template.weights);
    summed(template, taken, reach, h, g);
    const by = freedom === 'pose' ? solved(h, g, 6) : solved(...placeOnly(h, g));
    if (!by) return pose;
    // The template would have to move by so much; what it is in the picture moves the other way.
    const [du, dv] = [limited(by[2]!), limited(by[3]!)];
    const dt = freedom === 'pose' ? limited(by[4]!) : 0;
    const ds = freedom === 'pose' ? limited(by[5]!) : 0;
    const grows = Math.max(-MOST_GROWTH, Math.min(MOST_GROWTH, ds / reach));
    pose = less(pose, du * unit, dv * unit, dt / reach, grows);
    if (Math.max(Math.abs(du), Math.abs(dv), Math.abs(dt), Math.abs(ds)) < enough) break;
  }
  return pose;
}

/**
 * The normal equations of a step, the lower half in rows of six: gain, offset, to the right, down, turn, size; the last two as samples at
 * the template's edge, so that all steps are alike. Written out: this is what tracking spends its time with.
 */
function summed(template: Template, taken: Float32Array, reach: number, h: Float64Array, g: Float64Array): void {
  const { halfAcross, halfDown, weights, values, right, down } = template;
  const { gain, offset } = lightOf(template, taken);
  let [h00, h10, h11, h20, h21, h30, h31, h40, h41, h50, h51] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  let [h22, h32, h33, h42, h43, h44, h52, h53, h54, h55] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  let [g0, g1, g2, g3, g4, g5] = [0, 0, 0, 0, 0, 0];
  let n = 0;
  for (let v = -halfDown; v <= halfDown; v++) {
    const vr = v / reach;
    for (let u = -halfAcross; u <= halfAcross; u++, n++) {
      const counted = weights[n]!;
      if (counted === 0) continue;
      const ur = u / reach;
      for (let plane = 0, at = PLANES * n; plane < PLANES; plane++, at++) {
        const bright = plane === 0;
        const wanted = values[at]!;
        const residual = taken[at]! - (bright ? gain * wanted + offset : wanted);
        const share = residual / DOUBTED;
        const doubt = 1 + share * share;
        const weight = counted / (doubt * doubt);
        const scale = bright ? gain : 1;
        const [gx, gy] = [scale * right[at]!, scale * down[at]!];
        const turn = gy * ur - gx * vr;
        const size = gx * ur + gy * vr;
        const [wx, wy, wt, ws] = [weight * gx, weight * gy, weight * turn, weight * size];
        h22 += wx * gx;
        h32 += wx * gy;
        h33 += wy * gy;
        h42 += wt * gx;
        h43 += wt * gy;
        h44 += wt * turn;
        h52 += ws * gx;
        h53 += ws * gy;
        h54 += ws * turn;
        h55 += ws * size;
        g2 += wx * residual;
        g3 += wy * residual;
        g4 += wt * residual;
        g5 += ws * residual;
        if (!bright) continue;
        const light = wanted / GAIN_STEP;
        h00 += weight * light * light;
        h10 += weight * light;
        h11 += weight;
        h20 += wx * light;
        h21 += wx;
        h30 += wy * light;
        h31 += wy;
        h40 += wt * light;
        h41 += wt;
        h50 += ws * light;
        h51 += ws;
        g0 += weight * light * residual;
        g1 += weight * residual;
      }
    }
  }
  // One by one: lists would be made for every step.
  h[0] = h00;
  h[6] = h10;
  h[7] = h11;
  h[12] = h20;
  h[13] = h21;
  h[14] = h22;
  h[18] = h30;
  h[19] = h31;
  h[20] = h32;
  h[21] = h33;
  h[24] = h40;
  h[25] = h41;
  h[26] = h42;
  h[27] = h43;
  h[28] = h44;
  h[30] = h50;
  h[31] = h51;
  h[32] = h52;
  h[33] = h53;
  h[34] = h54;
  h[35] = h55;
  g[0] = g0;
  g[1] = g1;
  g[2] = g2;
  g[3] = g3;
  g[4] = g4;
  g[5] = g5;
}

/** The same without turn and size. */
function placeOnly(h: Float64Array, g: Float64Array): [Float64Array, Float64Array, number] {
  const few = new Float64Array(16);
  for (let row = 0; row < 4; row++) few.set(h.subarray(6 * row, 6 * row + 4), 4 * row);
  return [few, g.slice(0, 4), 4];
}

/** A pose after which a small one of the template is undone. */
function less({ x, y, turn, size }: Pose, du: number, dv: number, dt: number, ds: number): Pose {
  const [cos, sin] = [Math.cos(turn) * size, Math.sin(turn) * size];
  return { x: x - cos * du + sin * dv, y: y - sin * du - cos * dv, turn: turn - dt, size: size * (1 - ds) };
}

/** Gain and offset of brightness from a template to what is seen, by least squares. */
function lightOf({ weights, values }: Template, taken: Float32Array): { gain: number; offset: number } {
  let [sum, a, b, aa, ab] = [0, 0, 0, 0, 0];
  for (let n = 0, at = 0; n < weights.length; n++, at += PLANES) {
    const [w, p, q] = [weights[n]!, values[at]!, taken[at]!];
    sum += w;
    a += w * p;
    b += w * q;
    aa += w * p * p;
    ab += w * p * q;
  }
  const spread = aa - (a * a) / sum;
  const gain = spread > 1e-6 ? Math.max(0.5, Math.min(2, (ab - (a * b) / sum) / spread)) : 1;
  return { gain, offset: (b - gain * a) / sum };
}
