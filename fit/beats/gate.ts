import { inputsOf, likelihoods, type Gate, type Judge } from '@hastig/core/fit';

/** What is known of the readings of a sound, and whether there is a beat in it. */
interface GateQuestion {
  features: number[][];
  beat: boolean;
}

/** Steps of gradient ascent, how long each is, and how strongly weights are drawn towards 0. */
const STEPS = 600;
const RATE = 0.5;
const DECAY = 0.01;

/** The likeliest reading as the gate sees it: its features in deviations, and how likely it is. */
function seen(judge: Judge, features: number[][]): number[] {
  const likely = likelihoods(judge, features);
  const share = Math.max(...likely);
  const row = inputsOf(judge, features)[likely.indexOf(share)]!;
  return [...row.subarray(0, judge.mean.length), share];
}

/** A logistic regression that tells music from what has no beat; both sides count the same, however many there are of each. */
export function fitGate(judge: Judge, questions: readonly GateQuestion[]): { gate: Gate; scores: number[] } {
  const rows = questions.map(({ features, beat }) => ({ row: seen(judge, features), beat }));
  const count = rows[0]!.row.length;
  const [yes, no] = [true, false].map((side) => rows.filter(({ beat }) => beat === side).length) as [number, number];
  const weights = new Float64Array(count);
  let bias = 0;
  const scoreOf = (row: readonly number[]): number => row.reduce((sum, value, i) => sum + weights[i]! * value, bias);
  for (let step = 0; step < STEPS; step++) {
    const slopes = new Float64Array(count);
    let all = 0;
    for (const { row, beat } of rows) {
      const off = (Number(beat) - 1 / (1 + Math.exp(-scoreOf(row)))) / (beat ? yes : no) / 2;
      row.forEach((value, i) => (slopes[i]! += off * value));
      all += off;
    }
    slopes.forEach((slope, i) => (weights[i]! += RATE * (slope - DECAY * weights[i]!)));
    bias += RATE * all;
  }
  const short = (value: number): number => Number(value.toPrecision(3));
  return {
    gate: { weights: Array.from(weights, short), bias: short(bias) },
    scores: rows.map(({ row }) => scoreOf(row)),
  };
}
