import { shares, type Network } from '@hastig/core/fit';
import seedrandom from 'seedrandom';

/** Readings of a piece as the judge sees them, and how good each is. */
export interface Lesson {
  /** One row of numbers a reading. */
  rows: readonly Float64Array[];
  /** How good each is, 0 to 1. */
  worth: readonly number[];
  /** What the piece counts beside others. */
  weight: number;
}

interface Training {
  hidden: number;
  epochs: number;
  rate: number;
  decay: number;
  /** The share of the inputs that is left out of each lesson, so that none is relied on alone. */
  leaveOut: number;
  seed: string;
}

/**
 * Fits a network so that the worth of what is chosen is as great as can be expected where each reading is chosen by its share:
 * stochastic gradient ascent, Adam (D. Kingma and J. Ba, ICLR 2015), weights drawn towards 0.
 */
export function fitNetwork(
  lessons: readonly Lesson[],
  { hidden: units, epochs, rate, decay, leaveOut, seed }: Training,
): Network {
  const random = seedrandom(seed);
  const inputs = lessons[0]!.rows[0]!.length;
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const size = units * inputs + 2 * units;
  const weights = Float64Array.from({ length: size }, (_, i) =>
    i < units * inputs ? normal() / Math.sqrt(inputs) : i < units * inputs + units ? 0 : normal() * 0.3,
  );
  const [first, second] = [new Float64Array(size), new Float64Array(size)];
  const gradient = new Float64Array(size);
  const order = lessons.map((_, i) => i);
  const BATCH = 8;
  let step = 0;
  for (let epoch = 0; epoch < epochs; epoch++) {
    for (let i = order.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [order[i], order[j]] = [order[j]!, order[i]!];
    }
    const speed = rate * 0.5 * (1 + Math.cos((Math.PI * epoch) / epochs)) + rate * 0.01;
    for (let at = 0; at < order.length; at += BATCH) {
      gradient.fill(0);
      for (const index of order.slice(at, at + BATCH)) {
        const kept = Float64Array.from({ length: inputs / 3 }, () => (random() < leaveOut ? 0 : 1 / (1 - leaveOut)));
        const { rows, ...rest } = lessons[index]!;
        const masked = rows.map((row) => row.map((value, i) => value * kept[i % kept.length]!));
        addGradient({ ...rest, rows: masked }, weights, units, inputs, gradient);
      }
      step++;
      for (let i = 0; i < size; i++) {
        const slope = gradient[i]! / BATCH;
        first[i] = 0.9 * first[i]! + 0.1 * slope;
        second[i] = 0.999 * second[i]! + 0.001 * slope * slope;
        const mean = first[i]! / (1 - 0.9 ** step);
        const square = second[i]! / (1 - 0.999 ** step);
        weights[i]! += speed * (mean / (Math.sqrt(square) + 1e-8) - decay * weights[i]!);
      }
    }
  }
  return {
    hidden: Array.from({ length: units }, (_, unit) =>
      Array.from(weights.subarray(unit * inputs, (unit + 1) * inputs)),
    ),
    bias: Array.from(weights.subarray(units * inputs, units * inputs + units)),
    out: Array.from(weights.subarray(units * inputs + units)),
  };
}

/** How sharply worth turns into what should be chosen. */
const SHARP = 0.05;

function addGradient(
  lesson: Lesson,
  weights: Float64Array,
  units: number,
  inputs: number,
  gradient: Float64Array,
): void {
  const { rows, worth, weight } = lesson;
  const biasAt = units * inputs;
  const outAt = biasAt + units;
  const active = rows.map((row) => {
    const out = new Float64Array(units);
    for (let unit = 0; unit < units; unit++) {
      let sum = weights[biasAt + unit]!;
      const from = unit * inputs;
      for (let i = 0; i < inputs; i++) sum += weights[from + i]! * row[i]!;
      out[unit] = Math.tanh(sum);
    }
    return out;
  });
  const chosen = shares(active.map((one) => one.reduce((sum, value, unit) => sum + value * weights[outAt + unit]!, 0)));
  const wanted = shares(worth.map((one) => one / SHARP));
  rows.forEach((row, index) => {
    const slope = weight * (wanted[index]! - chosen[index]!);
    if (Math.abs(slope) < 1e-9) return;
    for (let unit = 0; unit < units; unit++) {
      const value = active[index]![unit]!;
      gradient[outAt + unit]! += slope * value;
      const inner = slope * weights[outAt + unit]! * (1 - value * value);
      gradient[biasAt + unit]! += inner;
      const from = unit * inputs;
      for (let i = 0; i < inputs; i++) gradient[from + i]! += inner * row[i]!;
    }
  });
}
