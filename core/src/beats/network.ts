/**
 * A small network that ranks ways to count: hidden units that are tangents of weighted sums, and a weighted sum of those. Fitted by
 * `npm run fit`, which says in the file of its numbers how they came about.
 */
export interface Network {
  /** For each hidden unit its weight of each input. */
  hidden: readonly (readonly number[])[];
  bias: readonly number[];
  out: readonly number[];
}

/** What turns features into shares: how they are brought to one scale, and networks whose scores are added. */
export interface Judge {
  /** Of each feature, over all pieces that were fitted to. */
  mean: readonly number[];
  deviation: readonly number[];
  networks: readonly Network[];
}

/** The inputs of each reading: its features in deviations from the mean, and how far each lies under the greatest of the piece. */
export function inputsOf(
  { mean, deviation }: Omit<Judge, 'networks'>,
  features: readonly (readonly number[])[],
): Float64Array[] {
  const count = mean.length;
  const rows = features.map((row) => {
    const inputs = new Float64Array(3 * count);
    for (let i = 0; i < count; i++) inputs[i] = (row[i]! - mean[i]!) / deviation[i]!;
    return inputs;
  });
  for (let i = 0; i < count; i++) {
    let [most, sum] = [-Infinity, 0];
    for (const row of rows) {
      if (row[i]! > most) most = row[i]!;
      sum += row[i]!;
    }
    for (const row of rows) {
      row[count + i] = row[i]! - sum / rows.length;
      row[2 * count + i] = row[i]! - most;
    }
  }
  return rows;
}

/** The score of a row of inputs; what differs between two says how much likelier one is. */
function scoreOf({ hidden, bias, out }: Network, inputs: Float64Array): number {
  let score = 0;
  for (let unit = 0; unit < out.length; unit++) {
    const weights = hidden[unit]!;
    let sum = bias[unit]!;
    for (let i = 0; i < weights.length; i++) sum += weights[i]! * inputs[i]!;
    score += out[unit]! * Math.tanh(sum);
  }
  return score;
}

/** Scores as shares of 1 (softmax). */
export function shares(scores: readonly number[]): number[] {
  const most = Math.max(...scores);
  const raised = scores.map((score) => Math.exp(score - most));
  const sum = raised.reduce((total, one) => total + one, 0);
  return raised.map((one) => one / sum);
}

/**
 * How likely each of some ways is the right one beside the others.
 *
 * @param features of each way, as many as the judge knows
 * @returns shares that sum to 1; none of none
 */
export function likelihoods(judge: Judge, features: readonly (readonly number[])[]): number[] {
  if (features.length === 0) return [];
  const scores = inputsOf(judge, features).map(
    (inputs) => judge.networks.reduce((sum, network) => sum + scoreOf(network, inputs), 0) / judge.networks.length,
  );
  return shares(scores);
}

/** What tells music from sound without a beat: a weighted sum of a reading's features, in deviations from the mean, and its share. */
export interface Gate {
  /** One for each feature, the last for how likely the reading is. */
  weights: readonly number[];
  bias: number;
}

/** How much speaks for a beat in some sound, by its likeliest reading: more the greater. */
export function gateScore(gate: Gate, { mean, deviation }: Judge, features: readonly number[], share: number): number {
  return mean.reduce(
    (sum, middle, i) => sum + (gate.weights[i]! * (features[i]! - middle)) / deviation[i]!,
    gate.bias + gate.weights[mean.length]! * share,
  );
}
