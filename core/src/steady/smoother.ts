import { solved } from '../track/solve';

/** Differences whose squares are kept small: what goes ever faster, evenly, is smooth. */
const ORDER = 3;

/** How a difference of so many neighbours is made: 1, −1; 1, −2, 1; … */
const differences = (order: number): number[] =>
  order === 0 ? [1] : differences(order - 1).reduce((made, value, n) => ((made[n]! -= value), (made[n + 1] = value), made), new Array<number>(order + 1).fill(0)); // prettier-ignore

/**
 * Evens values out over time: of what swings with a period of `period` values half is left, of what swings faster less, of what goes
 * straight or along a parabola all, up to both ends (Whittaker 1923; Eilers, A perfect smoother, 2003, of third differences).
 *
 * @param rows one or more series of as many values each
 * @param weights how much each place counts, above 0
 * @param period in values, above 2
 */
export function smoothed(rows: readonly Float64Array[], weights: Float64Array, period: number): Float64Array[] {
  const count = weights.length;
  const pad = Math.min(count - 1, Math.ceil(2 * period));
  if (pad < FEWEST) return evened(rows, weights, period);
  const mirrored = (at: number): number => (at < 0 ? -at : at >= count ? 2 * (count - 1) - at : at);
  const around = Float64Array.from({ length: count + 2 * pad }, (_, n) => weights[mirrored(n - pad)]!);
  const wide = rows.map((row) => goingOn(row, weights, pad));
  return evened(wide, around, period).map((row) => row.slice(pad, pad + count));
}

/** Values before the first and after the last of which there must be as many for them to tell how it goes on. */
const FEWEST = 6;

/**
 * Values that go on before and after as a parabola through so many of them at that end does, and swing about it as they do there, mirrored:
 * without, ends would swing along, since nothing comes after them.
 */
function goingOn(row: Float64Array, weights: Float64Array, pad: number): Float64Array {
  const made = new Float64Array(row.length + 2 * pad);
  made.set(row, pad);
  const last = row.length - 1;
  for (const end of [0, last]) {
    const inwards = end === 0 ? 1 : -1;
    const [h, g] = [new Float64Array(9), new Float64Array(3)];
    for (let n = 0; n <= pad; n++) {
      const at = end + inwards * n;
      const powers = [1, n / pad, (n / pad) ** 2];
      powers.forEach((power, i) => {
        g[i]! += weights[at]! * power * row[at]!;
        for (let j = 0; j <= i; j++) h[3 * i + j]! += weights[at]! * power * powers[j]!;
      });
    }
    const [c0 = 0, c1 = 0, c2 = 0] = solved(h, g, 3) ?? [];
    const parabola = (n: number): number => c0 + (c1 * n) / pad + (c2 * n * n) / pad ** 2;
    for (let n = 1; n <= pad; n++) made[pad + end - inwards * n] = row[end + inwards * n]! - parabola(n) + parabola(-n);
  }
  return made;
}

function evened(rows: readonly Float64Array[], weights: Float64Array, period: number): Float64Array[] {
  const count = weights.length;
  const order = Math.min(ORDER, count - 1);
  if (order < 1) return rows.map((row) => row.slice());
  const times = (2 * Math.sin(Math.PI / Math.max(2, period))) ** -order;
  const d = differences(order).map((share) => share * times);
  // The upper triangle of what the weights' and the differences' rows are turned to, one after the other (Givens): squares of them would
  // lose what is slow in what is rounded.
  const wide = order + 1;
  const upper = new Float64Array(wide * count);
  for (let n = 0; n < count; n++) upper[wide * n] = Math.sqrt(weights[n]!);
  const right = rows.map((row) => row.map((value, n) => value * Math.sqrt(weights[n]!)));
  const line = new Float64Array(wide);
  for (let start = 0; start + order < count; start++) {
    line.set(d);
    const rest = right.map(() => 0);
    for (let j = 0; j <= order; j++) {
      const at = wide * (start + j);
      const far = Math.hypot(upper[at]!, line[j]!);
      const [cos, sin] = [upper[at]! / far, line[j]! / far];
      for (let k = 0; j + k <= order; k++) {
        const [above, below] = [upper[at + k]!, line[j + k]!];
        upper[at + k] = cos * above + sin * below;
        line[j + k] = cos * below - sin * above;
      }
      right.forEach((row, n) => {
        const [above, below] = [row[start + j]!, rest[n]!];
        row[start + j] = cos * above + sin * below;
        rest[n] = cos * below - sin * above;
      });
    }
  }
  for (const row of right) {
    for (let n = count - 1; n >= 0; n--) {
      for (let k = 1; k <= order && n + k < count; k++) row[n]! -= upper[wide * n + k]! * row[n + k]!;
      row[n]! /= upper[wide * n]!;
    }
  }
  return right;
}
