import { inputsOf, likelihoods, type Judge } from '@hastig/core/fit';
import { fitNetwork, type Lesson } from './network';

/** Ways to count a piece, what is known of each, and how good each is. */
export interface Question {
  style: string;
  features: number[][];
  /** 0 to 1; one of them at least is more than 0. */
  worth: number[];
  weight: number;
}

/** How the networks are fitted; chosen by the figures of folds left out. */
const TRAINING = { hidden: 12, epochs: 25, rate: 0.003, decay: 0.1, leaveOut: 0.6 };
/** Networks whose scores are added; they differ in where they began. */
const NETWORKS = 3;
/** Parts the styles are dealt into, each of which is left out once. */
export const FOLDS = 5;

function scaleOf(questions: readonly Question[]): Omit<Judge, 'networks'> {
  const rows = questions.flatMap(({ features }) => features);
  const count = rows[0]!.length;
  const mean = Array.from({ length: count }, (_, i) => rows.reduce((sum, row) => sum + row[i]!, 0) / rows.length);
  const deviation = mean.map((middle, i) =>
    Math.sqrt(rows.reduce((sum, row) => sum + (row[i]! - middle) ** 2, 0) / rows.length),
  );
  return { mean, deviation: deviation.map((one) => (one > 1e-6 ? one : 1)) };
}

/** Three digits are enough: what they change is less than what one more piece would. */
const short = (values: readonly number[]): number[] => values.map((value) => Number(value.toPrecision(3)));

/** A judge that was fitted to some questions. */
export function fitJudge(questions: readonly Question[]): Judge {
  const scale = scaleOf(questions);
  const lessons = questions.map(({ features, worth, weight }): Lesson => ({
    rows: inputsOf(scale, features),
    worth,
    weight,
  }));
  const networks = Array.from({ length: NETWORKS }, (_, seed) =>
    fitNetwork(lessons, { ...TRAINING, seed: `judge ${seed}` }),
  );
  return {
    mean: short(scale.mean),
    deviation: short(scale.deviation),
    networks: networks.map(({ hidden, bias, out }) => ({
      hidden: hidden.map(short),
      bias: short(bias),
      out: short(out),
    })),
  };
}

/** The fold of a style: every fifth of all in order. */
export function foldsOf(styles: readonly string[]): Map<string, number> {
  return new Map(styles.map((style, i) => [style, i % FOLDS]));
}

/** What a judge chooses of a question's ways, by its place. */
export function choiceOf(judge: Judge, { features }: Pick<Question, 'features'>): number {
  const likely = likelihoods(judge, features);
  return likely.indexOf(Math.max(...likely));
}
